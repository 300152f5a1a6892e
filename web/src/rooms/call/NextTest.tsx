import type { Body } from '@careful-seam/core/log/bodies';
import { SPOILT, UNCLEAR } from '@careful-seam/core/log/callBodies';
import type { ShowerModel } from '@careful-seam/core/shower/geometry/showerModel';
import { outcomesOf, testKey } from '@careful-seam/core/trace/siteTests';
import type { Proposal, TraceView } from '@careful-seam/core/trace/traceCase';
import { outcomeName, percentWords, suspectName, testName } from '@careful-seam/words/sentences/callSentences';
import { useEffect, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { z } from 'zod';
import { useHeld } from '../../shared/useDraft';
import { usePreferences } from '../../ui/preferences';

/** A minute, ms. */
const MINUTE_MS = 60_000;

/** When a test was begun, ms since 1970; null before. */
const Clock = z.object({ beganMs: z.number().nullable() });

/** Minutes since a moment, counted on while they are shown. */
function useMinutesSince(fromMs: number | null): number | null {
  const [now, setNow] = useState(Date.now);
  useEffect(() => {
    if (fromMs === null) return;
    setNow(Date.now());
    const tick = setInterval(() => setNow(Date.now()), 5000);
    return () => clearInterval(tick);
  }, [fromMs]);
  return fromMs === null ? null : Math.max(0, Math.floor((now - fromMs) / MINUTE_MS));
}

/** What would stand after each outcome that can come. */
function Leaves({ model, proposal }: { model: ShowerModel; proposal: Proposal }) {
  const { t } = useTranslation();
  return (
    <ul className="text-sm" data-testid="leaves">
      {proposal.leaves.slice(0, 3).map((l) => (
        <li key={l.outcome}>
          {t('call.wouldLeave', {
            outcome: outcomeName(t, model, proposal.test, l.outcome),
            chance: percentWords(t, l.chance),
            first: suspectName(t, model, l.first.suspect),
            share: percentWords(t, l.first.probability),
          })}
        </li>
      ))}
    </ul>
  );
}

/** One test: what it costs and tells, how it is done, and what it showed. */
function TestCard({
  model,
  proposal,
  showerId,
  callId,
  onTested,
}: {
  model: ShowerModel;
  proposal: Proposal;
  showerId: string;
  callId: string;
  onTested: (body: Body<'call-tested'>) => void;
}) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { test } = proposal;
  // The clock runs on while the screen is away: a flood stands for hours.
  const {
    told: clock,
    tell: setClock,
    begin: stopClock,
  } = useHeld({ kind: 'call', showerId, element: `${callId} ${testKey(test)}` }, Clock, { beganMs: null });
  const minutes = useMinutesSince(clock.beganMs);
  const tell = (outcome: string) => {
    stopClock();
    onTested({ call: callId, test, outcome, ...(minutes === null ? {} : { minutes }) });
  };
  return (
    <div className="flex flex-col gap-2">
      <h3 className="font-bold text-xl leading-tight" data-testid="next-test">
        {testName(t, model, test, unit)}
      </h3>
      <p className="text-soft text-sm">
        {t('call.costs', { minutes: proposal.minutes, bits: proposal.informationBits.toFixed(2) })}
        {proposal.damageMinutes > 0 && ` ${t('call.damage', { minutes: proposal.damageMinutes })}`}
      </p>
      <p>{t(`call.how.${test.kind}`)}</p>
      <Leaves model={model} proposal={proposal} />
      {minutes === null ? (
        <button type="button" className="key" onClick={() => setClock({ beganMs: Date.now() })}>
          {t('call.begin')}
        </button>
      ) : (
        <p role="timer" className="border-water border-l-4 pl-2 font-semibold">
          {t(minutes < proposal.minutes ? 'call.runs' : 'call.ranLong', { minutes, of: proposal.minutes })}
        </p>
      )}
      <fieldset className="flex flex-wrap gap-1.5" aria-label={t('call.showed')}>
        {[...outcomesOf(model, test), UNCLEAR, ...(test.kind === 'open' ? [SPOILT] : [])].map((outcome) => (
          <button key={outcome} type="button" className="key grow px-2" onClick={() => tell(outcome)}>
            {outcomeName(t, model, test, outcome)}
          </button>
        ))}
      </fieldset>
    </div>
  );
}

/** What to try next and why; any other test can be chosen instead. */
export function NextTest({
  model,
  view,
  showerId,
  callId,
  onTested,
}: {
  model: ShowerModel;
  view: TraceView;
  showerId: string;
  callId: string;
  onTested: (body: Body<'call-tested'>) => void;
}) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const [other, setOther] = useState<string | null>(null);
  const [all, setAll] = useState(false);
  const proposal = view.next.find((p) => testKey(p.test) === other) ?? view.next[0];
  if (!proposal) return <p>{t('call.nothingLeft')}</p>;
  return (
    <section aria-label={t('call.next')} className="flex flex-col gap-2">
      <h2 className="font-semibold text-soft">{t(proposal === view.next[0] ? 'call.next' : 'call.chosen')}</h2>
      <TestCard
        key={testKey(proposal.test)}
        model={model}
        proposal={proposal}
        showerId={showerId}
        callId={callId}
        onTested={(body) => {
          setOther(null);
          setAll(false);
          onTested(body);
        }}
      />
      <button type="button" className="key" aria-expanded={all} onClick={() => setAll(!all)}>
        {t('call.others')}
      </button>
      {all && (
        <ul className="flex flex-col gap-1">
          {view.next.map((p) => (
            <li key={testKey(p.test)}>
              <button
                type="button"
                className="key flex w-full items-center gap-2 px-2 text-left"
                onClick={() => {
                  setOther(testKey(p.test));
                  setAll(false);
                }}
              >
                <span className="flex-1">{testName(t, model, p.test, unit)}</span>
                <span className="flex-none text-soft text-sm">
                  {t('call.worth', { minutes: p.minutes, bits: p.informationBits.toFixed(2) })}
                </span>
              </button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
