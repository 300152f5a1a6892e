import { kindsHere } from '@careful-seam/core/checks/kindsHere';
import { placeOf } from '@careful-seam/core/checks/place';
import type { Body } from '@careful-seam/core/log/bodies';
import type { Call, ShowerState } from '@careful-seam/core/log/state';
import type { TraceView } from '@careful-seam/core/trace/traceCase';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { CauseKeys } from '../../shared/CauseKeys';
import { type LocalShower, useStore } from '../../tablet/store';
import { SelectField, TextArea, TextField } from '../../ui/fields';
import { Sheet } from '../../ui/Sheet';
import { percentWords, suspectName } from './callWords';

/** The stage at which what a call finds is found. */
const CALL_BACK = 'call-back';
/** The last stage that asks something of an element which may stop it: there it was most likely made; empty where none does. */
function stageOf(state: ShowerState, element: string): string {
  const asks = state.requirements.filter((r) => r.element === element && r.check.severity === 'stop');
  const last = asks.sort((a, b) => b.stage.order - a.stage.order)[0];
  return last?.stage.key ?? '';
}

/** What is chosen where nobody found the way. */
const UNKNOWN = '';

/** What let the water through: an element or a pipe, or that nobody found it; why, why the check before did not catch it, what it costs. */
export function FoundSheet({
  shower,
  call,
  view,
  onClose,
}: {
  shower: LocalShower;
  call: Call;
  view: TraceView;
  onClose: () => void;
}) {
  const { t } = useTranslation();
  const writeAll = useStore((s) => s.writeAll);
  const { state } = shower;
  const [model, book] = [state.geometry!.model, state.rules!.book];
  const [found, setFound] = useState(view.open?.id ?? view.ranked[0]?.suspect.id ?? UNKNOWN);
  const [madeAt, setMadeAt] = useState<string | null>(null);
  const [kind, setKind] = useState('');
  const [cause, setCause] = useState('');
  const [missed, setMissed] = useState('');
  const [words, setWords] = useState('');
  const [cost, setCost] = useState({ hours: '', materials: '' });
  const suspect = view.ranked.find((r) => r.suspect.id === found)?.suspect ?? null;
  const isBuilt = suspect !== null && suspect.faces.length > 0;
  const stage = state.rules!.method.stages.some((s) => s.key === CALL_BACK)
    ? CALL_BACK
    : (state.rules!.method.stages.at(-1)?.key ?? CALL_BACK);
  const made = madeAt ?? (isBuilt ? stageOf(state, suspect.id) : '');
  const { kinds } = isBuilt ? kindsHere(state, made || stage, suspect.id) : { kinds: [] };
  const offered = kinds.length > 0 ? kinds : book.defectKinds;
  const number = (text: string) => (text.trim() === '' ? 0 : Math.max(0, Number(text) || 0));
  const keep = () => {
    const why = cause === '' ? {} : { cause: { family: cause, confidence: 'shown-by-test' as const } };
    const notCaught = missed === '' ? {} : { escape: { family: missed } };
    const asDefect: Body<'defect-found'> | null = isBuilt
      ? {
          stage,
          place: placeOf(state, suspect.id),
          kind: kind || offered[0]!.id,
          severity: 'stop',
          words: words.trim() || t('call.asDefect'),
          photos: [],
          ...(made === '' ? {} : { stageMade: made }),
          ...why,
          ...notCaught,
        }
      : null;
    const cents = { hours: number(cost.hours), materials: number(cost.materials) };
    const end: Body<'call-closed'> = {
      call: call.opened.id,
      found: suspect ? { element: suspect.id, kind: suspect.kind } : null,
      ...(words.trim() === '' ? {} : { words: words.trim() }),
      ...(cause === '' ? {} : { cause }),
      ...(missed === '' ? {} : { escape: missed }),
      ...(cents.hours + cents.materials > 0 ? { cost: cents } : {}),
    };
    void writeAll(shower.id, [
      ...(asDefect ? [{ kind: 'defect-found' as const, body: asDefect }] : []),
      { kind: 'call-closed' as const, body: end },
    ]).then(onClose);
  };
  return (
    <Sheet title={t('call.foundTitle')} onClose={onClose}>
      <div className="flex flex-col gap-3">
        <SelectField
          label={t('call.foundWhat')}
          value={found}
          none={t('call.pathUnknown')}
          options={view.ranked.map(({ suspect: s, probability }) => ({
            id: s.id,
            label: `${suspectName(t, model, s)} (${percentWords(t, probability)})`,
          }))}
          onChange={(e) => setFound(e.target.value)}
        />
        {isBuilt && (
          <SelectField
            label={t('call.madeAt')}
            value={made}
            none={t('defect.notKnownYet')}
            options={state.rules!.method.stages.map((s) => ({ id: s.key, label: s.label }))}
            onChange={(e) => setMadeAt(e.target.value)}
          />
        )}
        {isBuilt && (
          <SelectField
            label={t('call.foundKind')}
            value={kind || offered[0]?.id}
            options={offered.map((k) => ({ id: k.id, label: k.label }))}
            onChange={(e) => setKind(e.target.value)}
          />
        )}
        {suspect && (
          <>
            <CauseKeys
              book={book}
              kind={kind || (offered[0]?.id ?? null)}
              label={t('call.why')}
              value={cause}
              onChoose={setCause}
            />
            <SelectField
              label={t('call.escape')}
              value={missed}
              none={t('defect.notKnownYet')}
              options={book.escapes}
              onChange={(e) => setMissed(e.target.value)}
            />
          </>
        )}
        <TextArea
          label={t('call.foundWords')}
          maxLength={2000}
          value={words}
          onChange={(e) => setWords(e.target.value)}
        />
        <div className="grid grid-cols-2 gap-2">
          {(['hours', 'materials'] as const).map((what) => (
            <TextField
              key={what}
              label={t(`call.${what}`)}
              type="number"
              min="0"
              value={cost[what]}
              onChange={(e) => setCost({ ...cost, [what]: e.target.value })}
            />
          ))}
        </div>
        {isBuilt && <p className="text-soft text-sm">{t('call.becomesDefect')}</p>}
        <button type="button" className="key key-main text-lg" onClick={keep}>
          {t(suspect ? 'call.close' : 'call.closeUnknown')}
        </button>
      </div>
    </Sheet>
  );
}
