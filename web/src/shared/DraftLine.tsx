import { momentWords } from '@careful-seam/words/sentences/moments';
import { type ReactNode, useState } from 'react';
import { useTranslation } from 'react-i18next';
import type { FormDraft } from './useDraft';

/** Says that a form stands as it was left, with a key that throws that away. Nothing where a form begins anew. */
export function DraftLine({
  draft,
  onAnew,
}: {
  draft: Pick<FormDraft<unknown>, 'leftAtMs' | 'clear'>;
  onAnew: () => void;
}) {
  const { t } = useTranslation();
  if (draft.leftAtMs === null) return null;
  const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;
  return (
    <div className="flex items-center gap-2 border-cure border-l-4 pl-2" data-testid="draft-line">
      <p className="flex-1">{t('draft.asLeft', { at: momentWords(draft.leftAtMs, zone) })}</p>
      <button
        type="button"
        className="key flex-none"
        onClick={() => {
          draft.clear();
          onAnew();
        }}
      >
        {t('draft.anew')}
      </button>
    </div>
  );
}

/** A form that can begin anew: `form` is drawn with a key that begins it again. */
export function Renewable({ form }: { form: (anew: () => void) => ReactNode }) {
  const [round, setRound] = useState(0);
  return <Again key={round}>{form(() => setRound(round + 1))}</Again>;
}

/** What is drawn anew with its key. */
function Again({ children }: { children: ReactNode }) {
  return children;
}
