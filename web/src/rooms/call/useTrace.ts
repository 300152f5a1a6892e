import type { Call, ShowerState } from '@careful-seam/core/log/state';
import { symptomsOf } from '@careful-seam/core/trace/floorWatch';
import { findsOf, suspectsOf } from '@careful-seam/core/trace/ledgerSays';
import { oddsOf } from '@careful-seam/core/trace/odds';
import { ratesOf } from '@careful-seam/core/trace/rates';
import { stripGiven, stripTests } from '@careful-seam/core/trace/stripSays';
import type { Suspect } from '@careful-seam/core/trace/suspects';
import { type TraceView, traceCase } from '@careful-seam/core/trace/traceCase';
import { useMemo } from 'react';
import { useParts } from '../../tablet/store';

/**
 * Where a call stands: who is suspected by all that was told and tried, and what to do next; `closed` is the same before anything was
 * opened. Null without a call.
 */
export function useTrace(
  state: ShowerState,
  call: Call | null,
): { view: TraceView | null; closed: TraceView | null; suspects: Suspect[] } {
  const { leaks } = useParts('leaks');
  const suspects = useMemo(
    () => suspectsOf(state, ratesOf(leaks.finds, leaks.own), call ? findsOf(state, call) : new Set()),
    [state, leaks, call],
  );
  const { view, closed } = useMemo(() => {
    const model = state.geometry?.model;
    if (!model || !call) return { view: null, closed: null };
    const [symptoms, odds] = [symptomsOf(call), oddsOf(leaks.odds)];
    const tested = call.tests.map(({ id, body: { test, outcome, settled } }) => ({
      ...{ id, test, outcome },
      ...(settled ? { settled } : {}),
    }));
    const opened = { tested: [...tested, ...stripTests(call)], stripped: stripGiven(model, suspects, call, odds) };
    return {
      view: traceCase(model, { suspects, symptoms, odds, ...opened }),
      closed: traceCase(model, { suspects, symptoms, odds, tested: tested.filter((t) => t.test.kind !== 'open') }),
    };
  }, [state, call, suspects, leaks]);
  return { view, closed, suspects };
}
