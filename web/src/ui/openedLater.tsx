import { type ComponentType, lazy, Suspense } from 'react';
import { useTranslation } from 'react-i18next';
import { bringTexts, type TextPart } from './words';

/** Code of sheets that may still be fetched, for a tablet that goes where there is no network. */
const sheets: (() => Promise<unknown>)[] = [];

/** While the code of a sheet is on its way, which is once: the tap was heard. */
function Coming() {
  const { t } = useTranslation();
  return (
    <p role="status" className="fixed bottom-3 left-3 z-40 border-2 border-ink bg-paper p-3">
      {t('today.loading')}
    </p>
  );
}

/** Fetches the sheets of the screens that are here. Without a network it is tried again when one is opened. */
export async function fetchSheets(): Promise<void> {
  for (const load of sheets) await load().catch(() => undefined);
}

/**
 * A sheet whose code comes when it is first opened, with the texts that it alone has: nobody who opens the screen waits
 * for it. Where it could not be had, the screen that opened it says so, and opening it again asks anew.
 */
export function openedLater<P extends object>(
  load: () => Promise<ComponentType<P>>,
  ...texts: readonly TextPart[]
): ComponentType<P> {
  const fetch = async () => {
    const [code] = await Promise.all([load(), ...texts.map(bringTexts)]);
    return { default: code };
  };
  sheets.push(fetch);
  const Sheet = lazy(fetch);
  return function OpenedLater(props: P) {
    return (
      <Suspense fallback={<Coming />}>
        <Sheet {...props} />
      </Suspense>
    );
  };
}
