import { mayWrite } from '@careful-seam/core/log/roles';
import type { Call } from '@careful-seam/core/log/state';
import type { ShowerModel } from '@careful-seam/core/shower/geometry/showerModel';
import { stripOutOf } from '@careful-seam/core/trace/stripOut';
import { type PartOut, partKey, stripParts } from '@careful-seam/core/trace/stripParts';
import { strippedParts } from '@careful-seam/core/trace/stripSays';
import type { Suspect } from '@careful-seam/core/trace/suspects';
import type { TraceView } from '@careful-seam/core/trace/traceCase';
import { partName, partWords } from '@careful-seam/words/sentences/callSentences';
import { useLayoutEffect, useMemo, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { type LocalShower, useParts } from '../../tablet/store';
import { usePreferences } from '../../ui/preferences';
import { PartCard } from './StripPart';
import { TakeBack } from './TakeBack';

/** Parts that were told, each with why a fault of it counts or not, and a key that takes it back. */
function ToldParts({ shower, call }: { shower: LocalShower; call: Call }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const model = shower.state.geometry!.model;
  return (
    <ul data-testid="stripped">
      {strippedParts(call).map((told) => {
        const { entry, isCause } = told;
        return (
          <li key={entry.id} className="flex items-center gap-2 border-hair border-t py-1">
            <span className={`flex-1 leading-tight ${isCause ? 'font-semibold text-hold' : ''}`}>
              {partWords(t, model, told, unit)}
            </span>
            <TakeBack showerId={shower.id} entry={entry} />
          </li>
        );
      })}
    </ul>
  );
}

/** Parts that can be chosen, one key each. */
function PartKeys({
  model,
  parts,
  onChoose,
}: {
  model: ShowerModel;
  parts: PartOut[];
  onChoose: (p: PartOut) => void;
}) {
  const { t } = useTranslation();
  return (
    <ul className="grid grid-cols-2 gap-1">
      {parts.map((p) => (
        <li key={partKey(p)}>
          <button type="button" className="key w-full px-2 text-left text-sm" onClick={() => onChoose(p)}>
            {partName(t, model, p)}
          </button>
        </li>
      ))}
    </ul>
  );
}

/** The strip-out, part by part in the order in which they come out: what each was, and whether its fault was there before. */
export function StripOut({
  shower,
  call,
  view,
  suspect,
}: {
  shower: LocalShower;
  call: Call;
  view: TraceView;
  /** What is thought to have failed: it decides what must come out. */
  suspect: Suspect;
}) {
  const { t } = useTranslation();
  const { write, person, plan } = useParts('write', 'person', 'plan');
  const { state } = shower;
  const model = state.geometry!.model;
  const [chosen, setChosen] = useState<string | null>(null);
  const [more, setMore] = useState(false);
  const parts = useMemo(
    () => stripParts(model, state.rules!.method.key, stripOutOf(model, suspect, plan.settings.stageHours)),
    [model, state, suspect, plan],
  );
  const done = new Set(call.stripped.map((e) => partKey(e.body)));
  const isSafe = call.stripped.some((e) => e.body.part === 'safety' && e.body.verdict === 'sound');
  const must = parts.filter((p) => p.comesOut);
  const left = parts.filter((p) => !done.has(partKey(p)));
  const next = isSafe
    ? (left.find((p) => partKey(p) === chosen) ?? left.find((p) => p.comesOut))
    : parts.find((p) => p.part === 'safety')!;
  const others = left.filter((p) => p !== next);
  const mayTell = person !== null && mayWrite(person.role, 'part-stripped');
  const top = useRef<HTMLElement>(null);
  const asked = next ? partKey(next) : '';
  // Whatever was read before: what is asked, the cautions first of all, stands in sight from its beginning.
  // biome-ignore lint/correctness/useExhaustiveDependencies: each part that is asked anew is shown from its beginning
  useLayoutEffect(() => {
    top.current?.scrollIntoView({ block: 'start' });
  }, [asked]);
  return (
    <section ref={top} aria-label={t('call.strip.title')} className="flex flex-col gap-3" data-testid="strip">
      <p className="text-soft">
        {must.length === 0
          ? t('call.strip.stay')
          : t('call.strip.progress', { done: must.filter((p) => done.has(partKey(p))).length, of: must.length })}
      </p>
      {mayTell && next && (
        <>
          <h2 className="font-semibold text-soft">{t('call.strip.next')}</h2>
          <PartCard
            key={partKey(next)}
            {...{ model, view, part: next, showerId: shower.id, callId: call.opened.id }}
            onTold={(body) => {
              setChosen(null);
              return write(shower.id, 'part-stripped', body);
            }}
          />
        </>
      )}
      {!isSafe && <p className="text-soft text-sm">{t('call.strip.safetyFirst')}</p>}
      {isSafe && !next && <p className="font-semibold">{t('call.strip.nextDone')}</p>}
      <ToldParts shower={shower} call={call} />
      {isSafe && mayTell && others.length > 0 && (
        <>
          <button type="button" className="key" aria-expanded={more} onClick={() => setMore(!more)}>
            {t('call.strip.all')}
          </button>
          {more && (
            <PartKeys
              model={model}
              parts={others}
              onChoose={(p) => {
                setChosen(partKey(p));
                setMore(false);
              }}
            />
          )}
        </>
      )}
      <p className="text-soft text-sm">{t('call.strip.rule')}</p>
    </section>
  );
}
