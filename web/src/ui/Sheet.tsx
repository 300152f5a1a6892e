import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';
import { useTranslation } from 'react-i18next';
import { useBackCloses } from './sheetHistory';

/** What lies over the screen. */
interface Props {
  /** What it is of, in words. */
  title: string;
  /** Told when it is done with, kept or not. */
  onClose: () => void;
  /** What stands in it. */
  children: ReactNode;
}

/**
 * A sheet laid over the right of the screen, so that the map stays in view. Its key, Back and Escape close it; a palm on the
 * dimmed rest of the screen does not.
 */
export function Sheet({ title, onClose, children }: Props) {
  const { t } = useTranslation();
  useBackCloses(onClose);
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-black/40" />
        <Dialog.Content
          aria-describedby={undefined}
          onPointerDownOutside={(event) => event.preventDefault()}
          onInteractOutside={(event) => event.preventDefault()}
          className="sheet fixed top-0 right-0 bottom-0 flex w-full max-w-[520px] flex-col gap-3 overflow-y-auto border-edge border-l-2 bg-paper p-4 text-ink max-sm:border-l-0 max-sm:p-3"
        >
          <div className="flex items-center gap-2">
            <Dialog.Title className="flex-1 font-bold text-xl">{title}</Dialog.Title>
            <Dialog.Close className="key">{t('sheet.close')}</Dialog.Close>
          </div>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
