import { elementName } from '@careful-seam/words/texts/names';
import { useTranslation } from 'react-i18next';
import { useNavigate } from 'react-router';
import { draftStands } from '../shared/draftStands';
import { type StoredDraft, useDrafts } from '../tablet/drafts';
import { type LocalShower, useStore } from '../tablet/store';

/** Screens of their own that hold a form, by what is left in it. */
const SCREENS: Partial<Record<StoredDraft['about']['kind'], string>> = {
  coat: 'film',
  mark: 'flood',
  shower: 'dimensions',
  call: 'call',
};

/** What was typed at this shower last and not kept: one tap goes on with it. */
export function GoOn({ shower, onSheet }: { shower: LocalShower; onSheet: (left: StoredDraft) => void }) {
  const { t } = useTranslation();
  const navigate = useNavigate();
  const personId = useStore((s) => s.person?.id);
  const left = useDrafts(personId).filter(
    (d) => d.about.showerId === shower.id && d.about.element !== 'like' && draftStands(shower.state, d),
  );
  const newest = left[0];
  if (!newest) return null;
  const { kind, element } = newest.about;
  const screen = SCREENS[kind];
  const where = screen === undefined && element !== null ? elementName(t, shower.state.geometry!.model, element) : null;
  return (
    <button
      type="button"
      className="key max-w-52 flex-none text-sm leading-tight"
      data-testid="go-on"
      onClick={() => (screen ? void navigate(`/showers/${shower.id}/${screen}`) : onSheet(newest))}
    >
      {t('draft.goOn', { what: t(`draft.of.${kind}`) })}
      {where && `: ${where}`}
      {left.length > 1 && ` (${left.length})`}
    </button>
  );
}
