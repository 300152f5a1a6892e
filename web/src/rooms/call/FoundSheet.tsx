import { kindsHere } from '@careful-seam/core/checks/kindsHere';
import { placeOf } from '@careful-seam/core/checks/place';
import type { Body } from '@careful-seam/core/log/bodies';
import { WATER } from '@careful-seam/core/log/callBodies';
import type { Call, ShowerState } from '@careful-seam/core/log/state';
import { CALL_BACK } from '@careful-seam/core/trace/ledgerSays';
import { stripTests } from '@careful-seam/core/trace/stripSays';
import type { Suspect } from '@careful-seam/core/trace/suspects';
import type { TraceView } from '@careful-seam/core/trace/traceCase';
import { percentWords, suspectName } from '@careful-seam/words/sentences/callSentences';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { CauseKeys } from '../../shared/CauseKeys';
import { type LocalShower, useStore } from '../../tablet/store';
import { SelectField, TextArea, TextField } from '../../ui/fields';
import { Sheet } from '../../ui/Sheet';

/** What is chosen where nobody found the way. */
const UNKNOWN = 'unknown';

/** What is told of what was found. Stage and kind are null while nobody chose them. */
interface Told {
  found: string;
  madeAt: string | null;
  kind: string | null;
  cause: string;
  missed: string;
  words: string;
  hours: string;
  materials: string;
}

/** The last stage that asks something of an element which may stop it: there it was most likely made; empty where none does. */
function stageOf(state: ShowerState, element: string): string {
  const asks = state.requirements.filter((r) => r.element === element && r.check.severity === 'stop');
  return asks.sort((a, b) => b.stage.order - a.stage.order)[0]?.stage.key ?? '';
}

/** What a sheet begins with: what was opened or came out and was the way. A guess of the program is no find. */
const beginsWith = (call: Call): string =>
  call.tests.findLast(({ body }) => body.test.kind === 'open' && body.outcome === WATER)?.body.test.element ??
  stripTests(call).findLast((s) => s.outcome === WATER)?.test.element ??
  '';

/** Where it was made and as what it counts, as chosen or as is likeliest. */
function defectOf(state: ShowerState, suspect: Suspect, told: Told) {
  const { stages } = state.rules!.method;
  const stage = stages.some((s) => s.key === CALL_BACK) ? CALL_BACK : (stages.at(-1)?.key ?? CALL_BACK);
  const made = told.madeAt ?? stageOf(state, suspect.id);
  const { kinds } = kindsHere(state, made || stage, suspect.id);
  const offered = kinds.length > 0 ? kinds : state.rules!.book.defectKinds;
  return { stage, made, offered, kind: told.kind };
}

/** Figures as they are typed; nothing is none. */
const figure = (text: string): number => (text.trim() === '' ? 0 : Math.max(0, Number(text) || 0));

/** The end of the call, and the defect that it found where the shower has such an element. */
function bodiesOf(
  state: ShowerState,
  call: Call,
  ranked: TraceView['ranked'],
  suspect: Suspect | null,
  told: Told,
  asDefect: string,
) {
  const { cause, missed } = told;
  const words = told.words.trim();
  const at = ranked.findIndex((r) => r.suspect.id === suspect?.id);
  const cost = { hours: figure(told.hours), materials: figure(told.materials) };
  const end: Body<'call-closed'> = {
    call: call.opened.id,
    found: suspect ? { element: suspect.id, kind: suspect.kind } : null,
    ...(at < 0 ? {} : { foretold: { place: at + 1, of: ranked.length, probability: ranked[at]!.probability } }),
    ...(words === '' ? {} : { words }),
    ...(cause === '' ? {} : { cause }),
    ...(missed === '' ? {} : { escape: missed }),
    ...(cost.hours + cost.materials > 0 ? { cost } : {}),
  };
  const closes = { kind: 'call-closed' as const, body: end };
  if (!suspect || suspect.faces.length === 0) return [closes];
  const { stage, made, kind } = defectOf(state, suspect, told);
  if (kind === null) return [];
  const body: Body<'defect-found'> = {
    stage,
    place: placeOf(state, suspect.id),
    kind,
    severity: 'stop',
    words: words || asDefect,
    photos: [],
    ...(made === '' ? {} : { stageMade: made }),
    ...(cause === '' ? {} : { cause: { family: cause, confidence: 'shown-by-test' as const } }),
    ...(missed === '' ? {} : { escape: { family: missed } }),
  };
  return [{ kind: 'defect-found' as const, body }, closes];
}

/** At which stage it was made, as what it counts, why it was so, and why nobody saw it. */
function Why({
  state,
  suspect,
  told,
  tell,
}: {
  state: ShowerState;
  suspect: Suspect;
  told: Told;
  tell: (more: Partial<Told>) => void;
}) {
  const { t } = useTranslation();
  const { book, method } = state.rules!;
  const { made, kind, offered } = defectOf(state, suspect, told);
  return (
    <>
      {suspect.faces.length > 0 && (
        <>
          <SelectField
            label={t('call.madeAt')}
            value={made}
            none={t('defect.notKnownYet')}
            options={method.stages.map((s) => ({ id: s.key, label: s.label }))}
            onChange={(e) => tell({ madeAt: e.target.value })}
          />
          <SelectField
            label={t('call.foundKind')}
            value={kind ?? ''}
            none={t('call.chooseKind')}
            options={offered.map((k) => ({ id: k.id, label: k.label }))}
            onChange={(e) => tell({ kind: e.target.value || null })}
          />
        </>
      )}
      <CauseKeys
        book={book}
        kind={kind}
        label={t('call.why')}
        value={told.cause}
        onChoose={(cause) => tell({ cause })}
      />
      <SelectField
        label={t('call.escape')}
        value={told.missed}
        none={t('defect.notKnownYet')}
        options={book.escapes}
        onChange={(e) => tell({ missed: e.target.value })}
      />
    </>
  );
}

/** What let the water through: an element or a pipe, or that nobody found it; why, why the check before did not catch it, what it costs. */
export function FoundSheet({
  shower,
  call,
  view,
  foretold,
  onClose,
}: {
  shower: LocalShower;
  call: Call;
  view: TraceView;
  /** What tracing said before anything was opened: what is seen with one's eyes is no forecast. */
  foretold: TraceView;
  onClose: () => void;
}) {
  const { t } = useTranslation();
  const writeAll = useStore((s) => s.writeAll);
  const { state } = shower;
  const model = state.geometry!.model;
  const [told, setTold] = useState<Told>(() => ({
    ...{ found: beginsWith(call), madeAt: null, kind: null, cause: '', missed: '' },
    ...{ words: '', hours: '', materials: '' },
  }));
  const [problem, setProblem] = useState<string | undefined>(undefined);
  const tell = (more: Partial<Told>) => setTold({ ...told, ...more });
  const suspect = view.ranked.find((r) => r.suspect.id === told.found)?.suspect ?? null;
  const keep = () => {
    if (told.found === '') return setProblem(t('call.chooseFound'));
    if (suspect && suspect.faces.length > 0 && !told.kind) return setProblem(t('call.kindMissing'));
    void writeAll(shower.id, bodiesOf(state, call, foretold.ranked, suspect, told, t('call.asDefect'))).then(onClose);
  };
  return (
    <Sheet title={t('call.foundTitle')} onClose={onClose}>
      <div className="flex flex-col gap-3">
        <SelectField
          label={t('call.foundWhat')}
          value={told.found}
          none={t('call.choose')}
          options={[
            { id: UNKNOWN, label: t('call.pathUnknown') },
            ...view.ranked.map(({ suspect: s, probability }) => ({
              id: s.id,
              label: `${suspectName(t, model, s)} (${percentWords(t, probability)})`,
            })),
          ]}
          problem={problem}
          onChange={(e) => {
            setProblem(undefined);
            tell({ found: e.target.value, madeAt: null, kind: null });
          }}
        />
        {suspect && <Why state={state} suspect={suspect} told={told} tell={tell} />}
        <TextArea
          label={t('call.foundWords')}
          maxLength={2000}
          value={told.words}
          onChange={(e) => tell({ words: e.target.value })}
        />
        <div className="grid grid-cols-2 gap-2">
          {(['hours', 'materials'] as const).map((what) => (
            <TextField
              key={what}
              label={t(`call.${what}`)}
              type="number"
              min="0"
              max={what === 'hours' ? 10_000 : 1_000_000}
              value={told[what]}
              onChange={(e) => tell({ [what]: e.target.value })}
            />
          ))}
        </div>
        {suspect && suspect.faces.length > 0 && <p className="text-soft text-sm">{t('call.becomesDefect')}</p>}
        <button type="button" className="key key-main text-lg" onClick={keep}>
          {t(told.found === UNKNOWN ? 'call.closeUnknown' : 'call.close')}
        </button>
      </div>
    </Sheet>
  );
}
