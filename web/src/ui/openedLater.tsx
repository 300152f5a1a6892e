import { type ComponentType, Suspense } from 'react';
import { ErrorBoundary } from 'react-error-boundary';
import { useTranslation } from 'react-i18next';
import { Fetched, fetchAhead, forget, type Load } from './fetchedCode';
import { bringTexts, type TextPart } from './words';

/** Code of sheets that may still be fetched, for a tablet that goes where there is no network. */
const sheets: (() => Promise<void>)[] = [];

/** While the code of a sheet is on its way, which is once: the tap was heard. */
function Coming() {
  const { t } = useTranslation();
  return (
    <p role="status" className="fixed bottom-3 left-3 z-40 border-2 border-ink bg-paper p-3">
      {t('today.loading')}
    </p>
  );
}

/** A sheet that could not be had, or that failed: the screen under it goes on. */
function NotHere({ onClose }: { onClose: (() => void) | undefined }) {
  const { t } = useTranslation();
  return (
    <div role="alert" className="fixed bottom-3 left-3 z-40 flex items-center gap-3 border-2 border-hold bg-paper p-3">
      <p>{t('broken.sheet')}</p>
      {onClose && (
        <button type="button" className="key" onClick={onClose}>
          {t('sheet.close')}
        </button>
      )}
    </div>
  );
}

/** Fetches the sheets of the screens that are here. Without a network it is tried again when one is opened. */
export async function fetchSheets(): Promise<void> {
  for (const fetch of sheets) await fetch();
}

/**
 * A sheet whose code comes when it is first opened, with the texts that it alone has: nobody who opens the screen waits
 * for it. Where it can't be had, that is said and the screen goes on; opening it again asks anew.
 */
export function openedLater<P extends object>(
  load: () => Promise<ComponentType<P>>,
  ...texts: readonly TextPart[]
): ComponentType<P> {
  const code: Load<P> = async () => {
    const [shown] = await Promise.all([load(), ...texts.map(bringTexts)]);
    return { default: shown };
  };
  sheets.push(() => fetchAhead(code));
  return function OpenedLater(props: P) {
    const { onClose } = props as { onClose?: () => void };
    return (
      <ErrorBoundary fallback={<NotHere onClose={onClose} />} onError={() => forget(code)}>
        <Suspense fallback={<Coming />}>
          <Fetched load={code} props={props} />
        </Suspense>
      </ErrorBoundary>
    );
  };
}
