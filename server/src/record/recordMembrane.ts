import type { ShowerRecord } from '@careful-seam/contract/record/record';
import { askedOfKind } from '@careful-seam/core/checks/asked';
import { climateOf } from '@careful-seam/core/checks/cureOfShower';
import { showerFilms } from '@careful-seam/core/checks/film';
import { waitLayers } from '@careful-seam/core/checks/wait';
import type { ShowerState } from '@careful-seam/core/log/state';
import { showerTakeOff, usedOf } from '@careful-seam/core/proof/shown/takeOffOfShower';

function filmsOf(state: ShowerState): ShowerRecord['films'] {
  if (!state.geometry) return [];
  return showerFilms(state).flatMap(({ requirement, judged }) =>
    judged.zones
      .filter((z) => z.verdict !== 'unseen' && (z.zone !== 'corners' || z.thinnestWet !== null))
      .map((z) => ({
        stage: requirement.stage.key,
        check: requirement.check.id,
        zone: z.zone,
        areaM2: z.areaM2,
        coats: z.coats.length,
        coatsNeeded: z.coatsNeeded,
        volumeL: z.volumeL,
        meanWetUm: z.meanWetUm,
        meanDryUm: z.meanDryUm,
        dryLeastUm: requirement.check.dryLeastUm,
        missingL: z.missingL,
        verdict: z.verdict,
        reasons: z.reasons,
      })),
  );
}

const iso = (ms: number): string => new Date(ms).toISOString();

function curesOf(state: ShowerState): ShowerRecord['cures'] {
  return askedOfKind(state.requirements, 'wait').flatMap(({ check, stage }) => {
    const slowest = waitLayers(state, check)?.at(-1);
    if (!slowest) return [];
    return [
      {
        stage: stage.key,
        check: check.id,
        cures: check.cures ?? null,
        labelHours: check.hours,
        laidAt: iso(slowest.laidAtMs),
        element: slowest.element,
        readyAt: slowest.readyAtMs === null ? null : iso(slowest.readyAtMs),
        decides: slowest.decides,
        airRead: slowest.read,
        bridgedHours: slowest.bridgedHours,
        lostHours: slowest.lostHours,
        assumedHours: slowest.assumedHours,
      },
    ];
  });
}

function airOf(state: ShowerState): ShowerRecord['air'] {
  const { atMs, airC } = climateOf(state);
  const n = atMs.length;
  if (n === 0) return null;
  const temperatures = Array.from(airC);
  return {
    readings: n,
    from: iso(atMs[0]!),
    to: iso(atMs[n - 1]!),
    coldestC: temperatures.reduce((a, b) => Math.min(a, b)),
    warmestC: temperatures.reduce((a, b) => Math.max(a, b)),
  };
}

function materialsOf(state: ShowerState): ShowerRecord['materials'] {
  const used = usedOf(state);
  if (!used) return [];
  return showerTakeOff(state).flatMap((l) =>
    used[l.id] === undefined ? [] : [{ item: l.label, unit: l.unit, net: l.net, used: used[l.id]! }],
  );
}

/** What a record says of films, waits, the air and materials. */
export const membraneRecord = (state: ShowerState): Pick<ShowerRecord, 'films' | 'cures' | 'air' | 'materials'> => ({
  films: filmsOf(state),
  cures: curesOf(state),
  air: airOf(state),
  materials: materialsOf(state),
});
