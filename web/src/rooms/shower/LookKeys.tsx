import type { LookAnswer } from '@careful-seam/core/log/bodies';
import type { ShowerState } from '@careful-seam/core/log/state';
import { faceName } from '@careful-seam/words/texts/names';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { lookGroups, type Scope, wallOf } from '../../shared/runs';
import { StretchFields } from '../../shared/StretchFields';
import { useStore } from '../../tablet/store';

/** What is looked at. */
interface Props {
  /** The shower that it is written to. */
  showerId: string;
  /** The shower as it stands now. */
  state: ShowerState;
  /** Key of the stage that is looked at. */
  stage: string;
  /** Id of the seam, corner, opening, drain or face. */
  element: string;
  /** Opens the sheet of a defect, with the stretch that was chosen. */
  onDefect: (stretch: { fromMm: number; toMm: number } | null) => void;
}

/** Answers by looking: sound, could not see, not applicable, for one element, a stretch of it or a whole run. */
export function LookKeys({ showerId, state, stage, element, onDefect }: Props) {
  const { t } = useTranslation();
  const writeAll = useStore((s) => s.writeAll);
  const lengthMm = state.seamById.get(element)?.lengthMm ?? null;
  const [scope, setScope] = useState<Scope>('this');
  const [stretch, setStretch] = useState({ fromMm: 0, toMm: lengthMm ?? 0 });
  const [reason, setReason] = useState<string | null>(null);
  const wall = wallOf(state, element);
  const groups = lookGroups(state, stage, element, scope, stretch);
  const valid = scope !== 'stretch' || stretch.toMm > stretch.fromMm;
  if (groups.length === 0) return null;

  const answer = (word: LookAnswer, why?: string) => {
    const drafts = groups.map((g) => ({
      kind: 'look' as const,
      body: { stage, ...g, answer: word, ...(why ? { reason: why } : {}) },
    }));
    void writeAll(showerId, drafts);
    setReason(null);
    setScope('this');
  };
  const model = state.geometry!.model;
  const scopes: { key: Scope; label: string }[] = [
    { key: 'this', label: t('look.this') },
    ...(lengthMm === null ? [] : [{ key: 'stretch' as const, label: t('look.stretch') }]),
    { key: 'kind', label: t('look.kind') },
    ...(wall === null ? [] : [{ key: 'wall' as const, label: t('look.wall', { wall: faceName(t, model, wall) }) }]),
  ];

  return (
    <section aria-label={t('look.label')} className="flex flex-col gap-1.5">
      <fieldset className="flex gap-1" aria-label={t('look.scope')}>
        {scopes.map(({ key, label }) => (
          <button
            type="button"
            key={key}
            className="key flex-1 px-1 text-sm"
            aria-pressed={scope === key}
            onClick={() => setScope(key)}
          >
            {label}
          </button>
        ))}
      </fieldset>
      {scope === 'stretch' && <StretchFields stretch={stretch} lengthMm={lengthMm ?? 0} onStretch={setStretch} />}
      {!valid && <p className="text-hold text-sm">{t('look.emptyStretch')}</p>}
      {reason !== null && (
        <div className="flex gap-1.5">
          <input
            className="field"
            value={reason}
            onChange={(e) => setReason(e.target.value)}
            placeholder={t('look.reason')}
            aria-label={t('look.reason')}
          />
          <button
            type="button"
            className="key key-main flex-none"
            disabled={reason.trim() === ''}
            onClick={() => answer('not-applicable', reason.trim())}
          >
            {t('look.keep')}
          </button>
        </div>
      )}
      <div className="grid grid-cols-[1fr_1fr_1fr_1.4fr] gap-1.5">
        <button
          type="button"
          className="key px-1 text-sm"
          onClick={() => setReason(reason === null ? '' : null)}
          aria-expanded={reason !== null}
        >
          {t('look.notApplicable')}
        </button>
        <button type="button" className="key px-1 text-sm" disabled={!valid} onClick={() => answer('could-not-see')}>
          {t('look.cantSee')}
        </button>
        <button
          type="button"
          className="key key-hold px-1"
          disabled={!valid}
          onClick={() => onDefect(scope === 'stretch' ? stretch : null)}
        >
          {t('answer.defect')}
        </button>
        <button type="button" className="key key-main text-lg" disabled={!valid} onClick={() => answer('ok')}>
          {scope === 'kind' || scope === 'wall'
            ? t('look.soundCount', { count: groups.reduce((n, g) => n + g.places.length, 0) })
            : t('answer.ok')}
        </button>
      </div>
    </section>
  );
}
