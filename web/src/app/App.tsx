import { Suspense, useEffect } from 'react';
import { ErrorBoundary } from 'react-error-boundary';
import { BrowserRouter, Navigate, Route, Routes } from 'react-router';
import { Fetched } from '../ui/fetchedCode';
import { usePreferences } from '../ui/preferences';
import { useTheme } from '../ui/useTheme';
import { Later } from './Later';
import { screens } from './screens';

const gallery = async () => ({ default: (await import('./gallery/Gallery')).Gallery });

/** Every address of the application with its screen. */
function Screens() {
  return (
    <Routes>
      <Route path="/sign-in" element={<Later load={screens.signIn} />} />
      <Route path="/set-up" element={<Later load={screens.setUp} />} />
      <Route path="/set-password/:code" element={<Later load={screens.setPassword} />} />
      <Route path="/crew-link/:code" element={<Later load={screens.crewLink} />} />
      {/* For whoever works on the interface; a build does not have it. */}
      {import.meta.env.DEV && <Route path="/gallery" element={<Later load={gallery} />} />}
      <Route element={<Later load={screens.signed} />}>
        <Route path="/" element={<Later load={screens.home} />} />
        <Route path="/crew/:id" element={<Later load={screens.crewShower} />} />
        <Route path="/office/:page?" element={<Later load={screens.office} />} />
        <Route path="/across/:page?" element={<Later load={screens.across} />} />
        <Route path="/week" element={<Later load={screens.week} />} />
        <Route path="/new" element={<Later load={screens.newShower} />} />
        <Route path="/showers/:id">
          <Route index element={<Later load={screens.shower} />} />
          <Route path="dimensions" element={<Later load={screens.newShower} />} />
          <Route path="flood" element={<Later load={screens.flood} />} />
          <Route path="survey" element={<Later load={screens.survey} />} />
          <Route path="film" element={<Later load={screens.film} />} />
          <Route path="cure" element={<Later load={screens.cure} />} />
          <Route path="materials" element={<Later load={screens.materials} />} />
          <Route path="call" element={<Later load={screens.call} />} />
          <Route path="record" element={<Later load={screens.record} />} />
        </Route>
        <Route path="*" element={<Navigate to="/" replace />} />
      </Route>
    </Routes>
  );
}

/** The whole application: the screen of the address, and what runs behind all of them. */
export function App() {
  const { hand } = usePreferences();
  useEffect(() => {
    document.documentElement.dataset.hand = hand;
  }, [hand]);
  useTheme();
  return (
    <>
      <BrowserRouter>
        <Screens />
      </BrowserRouter>
      {/* Where it can't be had, the screen of the address says so. */}
      <ErrorBoundary fallback={null}>
        <Suspense>
          <Fetched load={screens.behind} props={{}} />
        </Suspense>
      </ErrorBoundary>
    </>
  );
}
