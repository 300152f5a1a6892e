import type { ShowerState } from '@careful-seam/core/log/state';
import { buildLedger } from '@careful-seam/core/proof/shown/seamLine';
import { useMemo } from 'react';

/** The ledger of a shower over all of its stages, for the map: a leak may come through the work of any. */
export const useLedger = (state: ShowerState) =>
  useMemo(
    () =>
      buildLedger(
        state,
        state.rules!.method.stages.map((s) => s.key),
      ),
    [state],
  );
