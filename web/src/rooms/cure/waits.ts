import { type AskedOf, askedOfKind } from '@careful-seam/core/checks/asked';
import { type LayerReady, laidIn, layersOf } from '@careful-seam/core/checks/cureOfShower';
import type { Forecast } from '@careful-seam/core/cure/cureClock';
import type { ShowerState } from '@careful-seam/core/log/state';

/** A wait of a shower with the layers that it hangs on. */
export interface ShowerWait {
  /** The wait that is asked. */
  requirement: AskedOf<'wait'>;
  /** Slowest last. */
  layers: LayerReady[];
  /** Stages that it follows too and that nothing was laid in yet. */
  toCome: string[];
}

/** Waits whose layers are laid, those still to come first; all of them where none is left. */
export function showerWaits(state: ShowerState, forecast: Forecast | null): ShowerWait[] {
  const { method } = state.rules!;
  const all = askedOfKind(state.requirements, 'wait').flatMap((requirement): ShowerWait[] => {
    const { check } = requirement;
    const asked = check.after.filter((key) => method.stages.some((s) => s.key === key && s.checks.length > 0));
    const laid = asked.filter((key) => laidIn(state, key, check.cures === 'drying').length > 0);
    if (laid.length === 0) return [];
    const layers = layersOf(state, check, laid, forecast);
    return [{ requirement, layers, toCome: asked.filter((key) => !laid.includes(key)) }];
  });
  const open = all.filter((w) => state.stages.get(w.requirement.stage.key)?.word !== 'released');
  return open.length > 0 ? open : all;
}
