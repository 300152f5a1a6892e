import type { Body } from '@careful-seam/core/log/bodies';
import { BreakSigns, STRIP_VERDICTS, type StripVerdict } from '@careful-seam/core/log/callBodies';
import { PhotoUse } from '@careful-seam/core/log/places';
import type { ShowerModel } from '@careful-seam/core/shower/geometry/showerModel';
import { signsOf, toldByBreak } from '@careful-seam/core/trace/breakSigns';
import { type PartOut, partKey, WHOLE } from '@careful-seam/core/trace/stripParts';
import type { Suspect } from '@careful-seam/core/trace/suspects';
import type { TraceView } from '@careful-seam/core/trace/traceCase';
import { CUT_UNDER_MM, TRAP_PIPE_MM } from '@careful-seam/core/trace/trapKept';
import { sideOf } from '@careful-seam/core/trace/waterWay';
import { materialWords, partName, suspectName, trapWords } from '@careful-seam/words/sentences/callSentences';
import { useTranslation } from 'react-i18next';
import { z } from 'zod';
import { Pictures, useFormPictures } from '../../shared/Pictures';
import { useHeld } from '../../shared/useDraft';
import { Choice } from '../../ui/Choice';
import { SelectField, TextArea } from '../../ui/fields';
import { LengthField } from '../../ui/LengthField';
import { usePreferences } from '../../ui/preferences';

/** What is said of a part before it is kept; what nobody said is null. */
const Held = z.object({
  isFaulty: z.boolean(),
  element: z.string(),
  mark: z.object({ alongMm: z.number(), heightMm: z.number() }).nullable(),
  breaks: BreakSigns,
  clogged: z.boolean().nullable(),
  debris: z.boolean().nullable(),
  pipeMm: z.number(),
  words: z.string(),
  before: z.array(PhotoUse),
  after: z.array(PhotoUse),
});
type Held = z.infer<typeof Held>;
const NOTHING: Held = {
  isFaulty: false,
  element: '',
  mark: null,
  breaks: {},
  clogged: null,
  debris: null,
  pipeMm: TRAP_PIPE_MM,
  words: '',
  before: [],
  after: [],
};
/** Heights and places of marks on a wall, mm at most. */
const WALL_MOST_MM = 6000;
/** The widest waste pipe that anybody tells of, mm. */
const PIPE_MOST_MM = 150;

/** By how it breaks, what a board or a pan is, and how such a one comes out. */
function Breaks({ part, told, tell }: { part: PartOut['part']; told: Held; tell: (more: Partial<Held>) => void }) {
  const { t } = useTranslation();
  const of = part === 'wall-board' ? 'board' : 'pan';
  const [by, signs] = [toldByBreak(of, told.breaks), signsOf(of)];
  return (
    <>
      <Choice
        label={t('call.strip.breaks')}
        value={told.breaks.how ?? null}
        options={signs.how.map((key) => ({ key, label: t(`call.strip.hows.${key}`) }))}
        onChoose={(how) => tell({ breaks: { ...told.breaks, how } })}
      />
      <Choice
        label={t('call.strip.inside')}
        value={told.breaks.inside ?? null}
        options={signs.inside.map((key) => ({ key, label: t(`call.strip.insides.${key}`) }))}
        onChoose={(inside) => tell({ breaks: { ...told.breaks, inside } })}
      />
      {by.likely.length > 0 && (
        <p role="status" data-testid="material">
          <span className="font-semibold">{materialWords(t, by.likely)}.</span>{' '}
          {t(by.sure ? 'call.strip.sure' : 'call.strip.unsure')} {t(`call.strip.out.${by.likely[0]!}`)}
        </p>
      )}
    </>
  );
}

/** Whether a trap stays, by how it was found. */
function Trap({ told, tell }: { told: Held; tell: (more: Partial<Held>) => void }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  return (
    <>
      {(['clogged', 'debris'] as const).map((what) => (
        <Choice
          key={what}
          label={t(`call.strip.${what}`)}
          value={told[what] === null ? null : told[what] ? 'yes' : 'no'}
          options={(['yes', 'no'] as const).map((key) => ({ key, label: t(`call.strip.${key}`) }))}
          onChoose={(key) => tell({ [what]: key === 'yes' })}
        />
      ))}
      <LengthField
        label={t('call.strip.pipe')}
        unit={unit}
        mm={told.pipeMm}
        most={PIPE_MOST_MM}
        onMm={(pipeMm) => tell({ pipeMm })}
      />
      {told.clogged !== null && told.debris !== null && (
        <p role="status" className="font-semibold" data-testid="trap">
          {trapWords(t, { clogged: told.clogged, debris: told.debris, pipeMm: told.pipeMm }, CUT_UNDER_MM, unit)}
        </p>
      )}
    </>
  );
}

/** A mark of water on a wall, where there is one. */
function Mark({ told, tell }: { told: Held; tell: (more: Partial<Held>) => void }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { mark } = told;
  return (
    <>
      <Choice
        label={t('call.strip.marked')}
        value={mark ? 'yes' : 'no'}
        options={(['yes', 'no'] as const).map((key) => ({ key, label: t(`call.strip.${key}`) }))}
        onChoose={(key) => tell({ mark: key === 'yes' ? { alongMm: 300, heightMm: 100 } : null })}
      />
      {mark && (
        <div className="grid grid-cols-2 gap-2">
          {(['heightMm', 'alongMm'] as const).map((what) => (
            <LengthField
              key={what}
              label={t(what === 'heightMm' ? 'call.strip.markHeight' : 'call.strip.markAlong')}
              unit={unit}
              mm={mark[what]}
              most={WALL_MOST_MM}
              onMm={(mm) => tell({ mark: { ...mark, [what]: mm } })}
            />
          ))}
        </div>
      )}
    </>
  );
}

/** What an entry says of a part, as it was told. */
function bodyOf(callId: string, { part, side }: PartOut, told: Held, verdict: StripVerdict): Body<'part-stripped'> {
  const words = told.words.trim();
  const isFaulty = verdict === 'faulty';
  return {
    ...{ call: callId, part, side, verdict, before: told.before, after: told.after },
    ...(isFaulty && told.element !== '' ? { element: told.element } : {}),
    ...(told.mark ? { mark: told.mark } : {}),
    ...(told.breaks.how || told.breaks.inside ? { breaks: told.breaks } : {}),
    ...(part === 'trap' && told.clogged !== null && told.debris !== null
      ? { trap: { clogged: told.clogged, debris: told.debris, pipeMm: told.pipeMm } }
      : {}),
    ...(words === '' ? {} : { words }),
  };
}

/** Where on a part a fault can be: what is suspected on its side, likeliest first. */
const faultsOn = (model: ShowerModel, { side }: PartOut, view: TraceView): Suspect[] =>
  view.ranked
    .map((r) => r.suspect)
    .filter((s) => s.faces.length > 0 && (side === WHOLE || s.faces.some((f) => sideOf(model, f) === side)));

/** One part: what to look for, its picture before anything is touched, and what it was. */
export function PartCard({
  model,
  part,
  view,
  showerId,
  callId,
  onTold,
}: {
  model: ShowerModel;
  part: PartOut;
  view: TraceView;
  showerId: string;
  callId: string;
  onTold: (body: Body<'part-stripped'>) => Promise<unknown>;
}) {
  const { t } = useTranslation();
  const held = useHeld({ kind: 'call', showerId, element: `${callId} strip ${partKey(part)}` }, Held, NOTHING);
  const { told, tell } = held;
  const before = useFormPictures(told.before, (photos) => tell({ before: [...photos] }));
  const after = useFormPictures(told.after, (photos) => tell({ after: [...photos] }));
  const keep = async (verdict: StripVerdict) => {
    // What is still being made smaller belongs to it.
    const [its, later] = [await before.all(), await after.all()];
    if (!its || !later) return;
    await onTold(bodyOf(callId, part, { ...told, before: its, after: later }, verdict));
    held.draft.drop();
  };
  const isSafety = part.part === 'safety';
  const isWall = part.part.startsWith('wall-') || part.part === 'stud-bay';
  return (
    <div className="flex flex-col gap-2" data-testid="strip-part" data-part={partKey(part)}>
      <h3 className="font-bold text-xl leading-tight">{partName(t, model, part)}</h3>
      <p className={isSafety ? 'border-cure border-l-4 pl-2' : ''}>{t(`call.strip.how.${part.part}`)}</p>
      {!isSafety && <Pictures label={t('call.strip.before')} pictures={before} />}
      {(part.part === 'wall-board' || part.part === 'base') && <Breaks part={part.part} told={told} tell={tell} />}
      {part.part === 'trap' && <Trap told={told} tell={tell} />}
      {isWall && <Mark told={told} tell={tell} />}
      {isSafety ? (
        <button type="button" className="key key-main text-lg" onClick={() => void keep('sound')}>
          {t('call.strip.done')}
        </button>
      ) : (
        <fieldset className="grid grid-cols-2 gap-1.5" aria-label={partName(t, model, part)}>
          {STRIP_VERDICTS.map((verdict) => (
            <button
              key={verdict}
              type="button"
              className="key px-2"
              aria-pressed={verdict === 'faulty' ? told.isFaulty : undefined}
              onClick={() => (verdict === 'faulty' ? tell({ isFaulty: !told.isFaulty }) : void keep(verdict))}
            >
              {t(`call.strip.verdict.${verdict}`)}
            </button>
          ))}
        </fieldset>
      )}
      {told.isFaulty && (
        <>
          <SelectField
            label={t('call.strip.where')}
            value={told.element}
            none={t('call.strip.whole')}
            options={faultsOn(model, part, view).map((s) => ({ id: s.id, label: suspectName(t, model, s) }))}
            onChange={(e) => tell({ element: e.target.value })}
          />
          <TextArea
            label={t('call.strip.words')}
            maxLength={2000}
            value={told.words}
            onChange={(e) => tell({ words: e.target.value })}
          />
          <Pictures label={t('call.strip.after')} pictures={after} />
          <button type="button" className="key key-main" onClick={() => void keep('faulty')}>
            {t('call.strip.keep')}
          </button>
        </>
      )}
    </div>
  );
}
