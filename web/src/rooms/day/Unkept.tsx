import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { draftStands } from '../../shared/draftStands';
import { type StoredDraft, useDrafts } from '../../tablet/drafts';
import { useNamedShowers, useStore } from '../../tablet/store';

/** Where a form is that holds something: of a shower that is there already its screen has the way on. */
function addressOf({ about: { kind, showerId, element } }: StoredDraft): string {
  if (kind === 'rules') return '/office/rules';
  if (kind === 'shower' && element !== 'edit') return showerId === null ? '/new' : `/new?like=${showerId}`;
  return `/showers/${showerId}`;
}

/** What was typed and not kept, wherever it was, the newest first. */
export function Unkept() {
  const { t } = useTranslation();
  const personId = useStore((s) => s.person?.id);
  const left = useDrafts(personId);
  const names = new Map(useNamedShowers().map((s) => [s.id, s.name]));
  const showers = useStore((s) => s.showers);
  const shown = left.filter((draft) => {
    const { showerId } = draft.about;
    if (showerId === null) return true;
    // Of a shower that sleeps nothing more is known than its name: its screen says whether it still stands.
    const state = showers.get(showerId)?.state;
    return names.has(showerId) && (state === undefined || draftStands(state, draft));
  });
  if (shown.length === 0) return null;
  return (
    <nav className="flex flex-wrap items-center gap-2 py-1" aria-label={t('draft.unkept')} data-testid="unkept">
      <span className="font-semibold">{t('draft.unkept')}:</span>
      {shown.slice(0, 4).map((d) => (
        <Link key={d.key} to={addressOf(d)} className="key flex items-center text-sm">
          {t(`draft.of.${d.about.kind}`)}
          {d.about.showerId !== null && `, ${names.get(d.about.showerId)}`}
        </Link>
      ))}
      {shown.length > 4 && <span className="text-soft">+{shown.length - 4}</span>}
    </nav>
  );
}
