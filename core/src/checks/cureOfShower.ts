import { type ClimateLog, type ClimateReading, climateLog } from '../cure/climateLog';
import { type CureReady, cureReady, type Forecast } from '../cure/cureClock';
import type { EntryOf } from '../log/entry';
import { instantOf, type ShowerState, typedInstant } from '../log/state';
import type { WaitCheck } from '../rules/checks/wait';
import { showerFilms } from './film';

/** A minute, ms. */
const MINUTE_MS = 60_000;

/** All readings of the air of an entry: one by hand, or a logger's series. */
export function readingsOf(state: Pick<ShowerState, 'arrivals'>, e: EntryOf<'climate-reading'>): ClimateReading[] {
  const { body } = e;
  const { series } = body;
  if (!series)
    return [{ atMs: typedInstant(state, e, body.readAt), airC: body.airC, relativeHumidity: body.relativeHumidity }];
  const startMs = Date.parse(series.startAt);
  return series.minutes.map((m, i) => ({
    atMs: startMs + m * MINUTE_MS,
    airC: series.airC[i]!,
    relativeHumidity: series.relativeHumidity[i]!,
  }));
}

/** The log of the air by the entries that it was made from: they are only ever added to. */
const logs = new WeakMap<readonly EntryOf<'climate-reading'>[], { count: number; log: ClimateLog }>();

/** The air of a shower as it was read. Put together once for the same entries. */
export function climateOf(state: ShowerState): ClimateLog {
  const known = logs.get(state.climate);
  if (known && known.count === state.climate.length) return known.log;
  const log = climateLog(state.climate.flatMap((e) => readingsOf(state, e)));
  logs.set(state.climate, { count: state.climate.length, log });
  return log;
}

/** One thing that was laid and must harden: what tells of it, where it lies, and when it was laid. */
export interface LaidLayer {
  /** The stage that it belongs to. */
  stage: string;
  /** What says that it was laid. */
  told: 'work' | 'redo' | 'coat' | 'release';
  /** Element of a redo; null where it is the whole stage. */
  element: string | null;
  /** Zones and number of a coat. */
  coat: { zones: readonly string[]; number: number } | null;
  /** When it was laid, ms since 1970. */
  laidAtMs: number;
  /** Wet film over the one that the label means; 1 where nobody measured. */
  filmRatio: number;
}

/** Coats of a shower's films as layers. */
function coatLayers(state: ShowerState, stage: string): LaidLayer[] {
  return showerFilms(state)
    .filter((f) => f.requirement.stage.key === stage)
    .flatMap(({ requirement, readings, judged }) => {
      const label = requirement.check.wetMostUm ?? requirement.check.wetLeastUm;
      return readings.flatMap(({ film }): LaidLayer[] => {
        if (film?.of !== 'coat') return [];
        const area = judged.zones.filter((z) => film.zones.includes(z.zone)).reduce((sum, z) => sum + z.areaM2, 0);
        const wetUm = area > 0 ? (((film.volumeL + film.waterL) * (1 - requirement.check.lossShare)) / area) * 1000 : 0;
        return [
          {
            stage,
            told: 'coat',
            element: null,
            coat: { zones: film.zones, number: film.coat },
            laidAtMs: Date.parse(film.doneAt),
            filmRatio: label === null ? 1 : Math.max(1, wetUm / label),
          },
        ];
      });
    });
}

/**
 * When work that was told was finished, ms since 1970: as it was said, never later than it was told, and never before the layers
 * under it were released: what is said of a time before that would let a wait run while nothing lay there.
 */
export function finishedAtMs(state: ShowerState, e: EntryOf<'work-done'>): number {
  const orderOf = (key: string) => state.rules?.method.stages.find((s) => s.key === key)?.order ?? 0;
  const below = [...state.stages.entries()].filter(([key]) => orderOf(key) < orderOf(e.body.stage));
  const laidOn = below.flatMap(([, s]) => s.release?.atMs ?? []);
  return Math.min(instantOf(state, e), Math.max(typedInstant(state, e, e.body.doneAt), ...laidOn));
}

/** What was laid in a stage, as far as its entries tell: said done, redone, coated; else when it was released. */
export function laidIn(state: ShowerState, stage: string, drying: boolean): LaidLayer[] {
  const bare = { stage, coat: null, filmRatio: 1 };
  const coats = drying ? coatLayers(state, stage) : [];
  const works = (state.stages.get(stage)?.work ?? []).map(
    (e): LaidLayer => ({ ...bare, told: 'work', element: null, laidAtMs: finishedAtMs(state, e) }),
  );
  const redos = state.redos
    .filter((e) => e.body.stage === stage)
    .flatMap((e) =>
      e.body.places.map(
        (p): LaidLayer => ({ ...bare, told: 'redo', element: p.element, laidAtMs: instantOf(state, e) }),
      ),
    );
  // A coat tells by itself when it went on; that the crew said so later adds nothing to its hours.
  const told = [...coats, ...redos, ...(coats.length > 0 ? [] : works)];
  if (told.length > 0) return told;
  const release = state.stages.get(stage)?.release;
  return release ? [{ ...bare, told: 'release', element: null, laidAtMs: release.atMs }] : [];
}

/** A layer as it was laid, and when it is ready. */
export interface LayerReady extends LaidLayer, CureReady {}

/** When each layer that a wait follows is ready, the slowest last. A stage that nothing tells of gives no layer. */
export function layersOf(
  state: ShowerState,
  check: WaitCheck,
  stages: readonly string[],
  forecast: Forecast | null = null,
): LayerReady[] {
  const kind = check.cures ?? 'sealant';
  const log = climateOf(state);
  const layers = stages
    .flatMap((s) => laidIn(state, s, kind === 'drying'))
    .map((laid): LayerReady => {
      const { laidAtMs, filmRatio } = laid;
      const layer = {
        kind,
        laidAtMs,
        labelHours: check.hours,
        model: check.model ?? ('arrhenius' as const),
        filmRatio,
      };
      return { ...laid, ...cureReady(layer, log, forecast) };
    });
  return layers.sort((a, b) => (a.readyAtMs ?? Infinity) - (b.readyAtMs ?? Infinity));
}
