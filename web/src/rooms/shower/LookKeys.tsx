import { placeOf } from '@careful-seam/core/checks/place';
import type { LookGroup } from '@careful-seam/core/checks/walk';
import type { LookAnswer } from '@careful-seam/core/log/bodies';
import type { PhotoUse } from '@careful-seam/core/log/places';
import type { ShowerState } from '@careful-seam/core/log/state';
import type { Check } from '@careful-seam/core/rules/checks/check';
import { faceName } from '@careful-seam/words/texts/names';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { answeredBy } from '../../shared/answering';
import { oneTap, useResting } from '../../shared/oneTap';
import { PictureKey } from '../../shared/PictureKey';
import { lookGroups, type Scope, wallOf } from '../../shared/runs';
import { StretchFields } from '../../shared/StretchFields';
import { useStore } from '../../tablet/store';
import { hotkey } from '../../ui/hotkeys';

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

/** What may not apply, and who is told. */
interface ReasonProps {
  /** Checks that are asked here. */
  checks: readonly Check[];
  /** Some of them are looked at, and may be left out together. */
  hasAll: boolean;
  /** Told of the check, or of all that is looked at under an empty name, and why. */
  onKeep: (of: string, why: string) => void;
}

/** What one may say does not apply: everything that is looked at here, or one check. */
const ALL = '';

/** Why something does not apply, and what: kept by its key or by Enter. */
function DoesNotApply({ checks, hasAll, onKeep }: ReasonProps) {
  const { t } = useTranslation();
  const [reason, setReason] = useState('');
  const [of, setOf] = useState(hasAll ? ALL : (checks[0]?.id ?? ALL));
  return (
    <form
      className="flex flex-col gap-1.5"
      onSubmit={(e) => {
        e.preventDefault();
        if (reason.trim() !== '') onKeep(of, reason.trim());
      }}
    >
      {(checks.length > 1 || !hasAll) && (
        <select className="field" aria-label={t('look.which')} value={of} onChange={(e) => setOf(e.target.value)}>
          {hasAll && <option value={ALL}>{t('look.allLooked')}</option>}
          {checks.map((c) => (
            <option key={c.id} value={c.id}>
              {c.label}
            </option>
          ))}
        </select>
      )}
      <div className="flex gap-1.5">
        <input
          className="field"
          value={reason}
          onChange={(e) => setReason(e.target.value)}
          placeholder={t('look.reason')}
          aria-label={t('look.reason')}
        />
        <button type="submit" className="key key-main flex-none" disabled={reason.trim() === ''}>
          {t('look.keep')}
        </button>
      </div>
    </form>
  );
}

/** How far the answer reaches. */
interface ScopeProps extends Pick<Props, 'state' | 'element'> {
  /** As it is chosen. */
  scope: Scope;
  /** Told of another one. */
  onScope: (scope: Scope) => void;
}

/** This one, a stretch of it, all like it, all of its wall. */
function ScopeKeys({ state, element, scope, onScope }: ScopeProps) {
  const { t } = useTranslation();
  const wall = wallOf(state, element);
  const scopes: { key: Scope; label: string }[] = [
    { key: 'this', label: t('look.this') },
    ...(state.seamById.has(element) ? [{ key: 'stretch' as const, label: t('look.stretch') }] : []),
    { key: 'kind', label: t('look.kind') },
    ...(wall === null
      ? []
      : [{ key: 'wall' as const, label: t('look.wall', { wall: faceName(t, state.geometry!.model, wall) }) }]),
  ];
  return (
    <fieldset className="flex gap-1" aria-label={t('look.scope')}>
      {scopes.map(({ key, label }) => (
        <button
          type="button"
          key={key}
          className="key flex-1 px-1 text-sm"
          aria-pressed={scope === key}
          onClick={() => onScope(key)}
        >
          {label}
        </button>
      ))}
    </fieldset>
  );
}

/** Everything that is asked of an element and answered on its card, each check once. */
function checksAt(state: ShowerState, stage: string, element: string): Check[] {
  const asked = state.requirements.filter((r) => r.stage.key === stage && r.element === element);
  const here = asked.filter(({ check }) => ['look', 'reading', 'figure'].includes(answeredBy(check)));
  return [...new Map(here.map((r) => [r.check.id, r.check])).values()];
}

/** What the keys under a card say and do. */
interface AnswerProps {
  /** What says that it is sound; null where nothing is looked at. */
  sound: string | null;
  /** The next layer hides it: its proof is a picture. */
  wantsPicture: boolean;
  /** Nothing can be answered as it is chosen. */
  disabled: boolean;
  /** Why something does not apply is being said. */
  reasoning: boolean;
  /** Begins to say it, or stops. */
  onReasoning: () => void;
  onNotSeen: () => void;
  onDefect: () => void;
  /** Told with the pictures that were taken of it. */
  onSound: (photos?: PhotoUse[]) => void;
}

/** Does not apply, can't see, a defect, sound: with its picture first where the next layer hides it. */
function AnswerKeys(keys: AnswerProps) {
  const { sound, wantsPicture, disabled, reasoning, onReasoning, onNotSeen, onDefect, onSound } = keys;
  const { t } = useTranslation();
  const resting = useResting();
  const isLooked = sound !== null;
  return (
    <>
      {isLooked && wantsPicture && !disabled && (
        <PictureKey
          label={t('picture.andSound', { word: sound })}
          from="camera"
          resting={resting}
          letter="sound"
          onPictures={onSound}
          className="key-main text-lg"
        />
      )}
      <div className={`grid gap-1.5 ${isLooked ? 'grid-cols-[1fr_1fr_1fr_1.4fr]' : 'grid-cols-3'}`}>
        <button type="button" className="key px-1 text-sm" onClick={onReasoning} aria-expanded={reasoning}>
          {t('look.notApplicable')}
        </button>
        <button
          type="button"
          className="key px-1 text-sm"
          disabled={disabled}
          aria-disabled={resting}
          {...hotkey('notSeen')}
          onClick={onNotSeen}
        >
          {t('look.cantSee')}
        </button>
        <button
          type="button"
          className="key key-hold px-1"
          disabled={disabled}
          {...hotkey('defect')}
          onClick={onDefect}
        >
          {t('answer.defect')}
        </button>
        {isLooked && (
          <button
            type="button"
            className={wantsPicture ? 'key px-1 text-sm leading-tight' : 'key key-main text-lg'}
            disabled={disabled}
            aria-disabled={resting}
            {...(wantsPicture ? {} : hotkey('sound'))}
            onClick={() => onSound()}
          >
            {wantsPicture ? t('picture.without') : sound}
          </button>
        )}
      </div>
    </>
  );
}

/**
 * Answers by looking: sound, could not see, not applicable, a defect; for one element, a stretch of it or a whole run. What can't
 * be answered by a look alone (a figure, a paper) has the same keys but "sound".
 */
export function LookKeys({ showerId, state, stage, element, onDefect }: Props) {
  const { t } = useTranslation();
  const writeAll = useStore((s) => s.writeAll);
  const lengthMm = state.seamById.get(element)?.lengthMm ?? null;
  const [scope, setScope] = useState<Scope>('this');
  const [stretch, setStretch] = useState({ fromMm: 0, toMm: lengthMm ?? 0 });
  const [reasoning, setReasoning] = useState(false);
  const groups = lookGroups(state, stage, element, scope, stretch);
  const valid = scope !== 'stretch' || stretch.toMm > stretch.fromMm;
  const checks = checksAt(state, stage, element);
  if (checks.length === 0) return null;
  const isLooked = groups.length > 0;
  /** One check, or all that can be answered at this place where nothing is looked at. */
  const alone = (ids: string[]): LookGroup[] => [
    { checks: ids, places: [placeOf(state, element, scope === 'stretch' ? stretch : {})] },
  ];
  const all = isLooked ? groups : alone(checks.map((c) => c.id));

  /** Checks whose place the next layer hides: their proof is a picture. */
  const hidden = new Set(checks.filter((c) => c.keepPicture).map((c) => c.id));
  const wantsPicture = groups.some((g) => g.checks.some((c) => hidden.has(c)));
  const answer = (word: LookAnswer, of: readonly LookGroup[], why?: string, photos?: PhotoUse[]) =>
    oneTap(async () => {
      await writeAll(
        showerId,
        of.map((g) => ({
          kind: 'look' as const,
          body: {
            stage,
            ...g,
            answer: word,
            ...(why ? { reason: why } : {}),
            ...(photos && g.checks.some((c) => hidden.has(c)) ? { photos } : {}),
          },
        })),
      );
      setReasoning(false);
      setScope('this');
    });

  const soundWord =
    scope === 'kind' || scope === 'wall'
      ? t('look.soundCount', { count: groups.reduce((n, g) => n + g.places.length, 0) })
      : t('answer.ok');
  return (
    <section aria-label={t('look.label')} className="flex flex-col gap-1.5">
      {isLooked && <ScopeKeys state={state} element={element} scope={scope} onScope={setScope} />}
      {scope === 'stretch' && <StretchFields stretch={stretch} lengthMm={lengthMm ?? 0} onStretch={setStretch} />}
      {!valid && <p className="text-hold text-sm">{t('look.emptyStretch')}</p>}
      {reasoning && (
        <DoesNotApply
          checks={checks}
          hasAll={isLooked}
          onKeep={(of, why) => answer('not-applicable', of === ALL ? groups : alone([of]), why)}
        />
      )}
      <AnswerKeys
        sound={isLooked ? soundWord : null}
        wantsPicture={wantsPicture}
        disabled={!valid}
        reasoning={reasoning}
        onReasoning={() => setReasoning(!reasoning)}
        onNotSeen={() => answer('could-not-see', all)}
        onDefect={() => onDefect(scope === 'stretch' ? stretch : null)}
        onSound={(photos) => answer('ok', groups, undefined, photos)}
      />
    </section>
  );
}
