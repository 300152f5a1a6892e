import { WATER } from '@careful-seam/core/log/callBodies';
import type { FloodTest } from '@careful-seam/core/log/floodTest';
import { mayWrite } from '@careful-seam/core/log/roles';
import type { ShowerModel } from '@careful-seam/core/shower/geometry/showerModel';
import { type AtHeight, atHeight, HELD_BACK_MOST_MM, heldBackMm } from '@careful-seam/core/trace/atHeight';
import { suspectsOf } from '@careful-seam/core/trace/ledgerSays';
import { ratesOf } from '@careful-seam/core/trace/rates';
import { showLength } from '@careful-seam/core/units/length';
import type { LeakHeight } from '@careful-seam/core/water/leakHeight';
import { leakSize } from '@careful-seam/core/water/leakSize';
import { momentWords } from '@careful-seam/words/sentences/moments';
import { elementName } from '@careful-seam/words/texts/names';
import { useEffect, useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useNavigate } from 'react-router';
import { z } from 'zod';
import { useHeld } from '../../shared/useDraft';
import { type LocalShower, useParts } from '../../tablet/store';
import { SelectField } from '../../ui/fields';
import { usePreferences } from '../../ui/preferences';
import { Sheet } from '../../ui/Sheet';
import { floodWork } from './floodWork';
import { LiveChart } from './LiveChart';
import { seriesBody } from './loggerSeries';
import { type LevelAt, useDeviceLevels, useDevices } from './useDevice';

/** The step of a logger that says none, mm. */
const STEP_MM = 0.1;
/** Places that are named where the water stopped. */
const NAMED = 6;
/** The height is asked anew after so many more readings. */
const ASK_EVERY = 6;
/** An hour, ms. */
const HOUR_MS = 3_600_000;
/** Which instrument was chosen; it stays chosen when the screen comes back. */
const Chosen = z.object({ device: z.string() });

/** What the pan loses in an hour, mm; nothing where there is no pan. */
function evaporation(pan: readonly LevelAt[]): number {
  const [first, last] = [pan[0], pan.at(-1)];
  if (!first || !last || last.atMs - first.atMs < HOUR_MS) return 0;
  return Math.max(0, (first.levelMm - last.levelMm) / ((last.atMs - first.atMs) / HOUR_MS));
}

/** How much water a hole of the size that the first hour tells holds back, mm; as much as any can where it tells none. */
function heldBack(
  levels: readonly LevelAt[],
  pan: readonly LevelAt[],
  height: LeakHeight,
  floorMm2: number,
): number | undefined {
  const [first] = levels;
  const hour = levels.find((l) => first && l.atMs - first.atMs >= HOUR_MS);
  if (!first || !hour) return undefined;
  const hours = (hour.atMs - first.atMs) / HOUR_MS;
  const lossMmPerHour = (first.levelMm - hour.levelMm) / hours - evaporation(pan);
  const headMm = (first.levelMm + hour.levelMm) / 2 - height.heightMm;
  if (lossMmPerHour <= 0 || headMm <= 0) return undefined;
  const size = leakSize({ lossMmPerHour, wettedM2: floorMm2 / 1e6, headMm });
  return size.ok ? heldBackMm(size.value.holeMm) : undefined;
}

/** The height at which a level settles, worked out beside the screen; null while it says none. */
function useHeight(levels: readonly LevelAt[], pan: readonly LevelAt[], count: number): LeakHeight | null {
  const [height, setHeight] = useState<LeakHeight | null>(null);
  const round = Math.floor(count / ASK_EVERY);
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked anew after some readings, and not after each
  useEffect(() => {
    const [first] = levels;
    if (!first) return setHeight(null);
    let current = true;
    void floodWork()
      .leakHeight({
        readings: levels.map((l) => ({ atHours: (l.atMs - first.atMs) / HOUR_MS, levelMm: l.levelMm })),
        resolutionMm: STEP_MM,
        evaporationMmPerHour: evaporation(pan),
      })
      .then((found) => current && setHeight(found.ok ? found.value : null));
    return () => {
      current = false;
    };
  }, [round]);
  return height;
}

/** The height at which the water stops, and what lies there. */
function Where({
  model,
  height,
  held,
  places,
}: {
  model: ShowerModel;
  height: LeakHeight;
  held: number | undefined;
  places: readonly AtHeight[];
}) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  return (
    <section aria-label={t('flood.live.where')} data-testid="leak-height">
      <p className="font-bold text-lg">
        {t('flood.live.settles', {
          height: `${height.heightMm.toFixed(1)} mm`,
          low: height.lowMm.toFixed(1),
          high: height.highMm.toFixed(1),
        })}
      </p>
      <p className="text-soft text-sm">
        {t('flood.live.upper', { held: showLength(held ?? HELD_BACK_MOST_MM, unit) })}
      </p>
      <ol className="list-decimal pl-6" data-testid="at-height">
        {places.map(({ suspect }) => (
          <li key={suspect.id}>{elementName(t, model, suspect.id)}</li>
        ))}
      </ol>
    </section>
  );
}

/** A call that is open hears where the level settled: it separates what a flood alone does not. */
function TellCall({
  shower,
  levelMm,
  height,
  held,
}: {
  shower: LocalShower;
  /** The level that it was filled to, mm over the drain's rim. */
  levelMm: number;
  height: LeakHeight;
  held: number | undefined;
}) {
  const { t } = useTranslation();
  const { write, person } = useParts('write', 'person');
  const navigate = useNavigate();
  const call = [...shower.state.calls.values()].findLast((c) => !c.closed);
  if (!call || !person || !mayWrite(person.role, 'call-tested')) return null;
  const tell = () => {
    const { lowMm, highMm } = height;
    void write(shower.id, 'call-tested', {
      ...{ call: call.opened.id, test: { kind: 'flood', levelMm }, outcome: WATER },
      settled: { lowMm, highMm, heldBackMm: held ?? HELD_BACK_MOST_MM },
    }).then(() => navigate(`/showers/${shower.id}/call`));
  };
  return (
    <button type="button" className="key" onClick={tell}>
      {t('flood.live.toCall')}
    </button>
  );
}

/** An instrument that sends by itself: what it says, where the water stops, and a key that takes its readings into the record. */
export function LiveSheet({
  shower,
  test,
  zone,
  onClose,
}: {
  shower: LocalShower;
  test: FloodTest;
  zone: string;
  onClose: () => void;
}) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { writeAll, leaks } = useParts('writeAll', 'leaks');
  const devices = useDevices();
  const { told, tell } = useHeld({ kind: 'call', showerId: shower.id, element: 'live' }, Chosen, { device: '' });
  const id = told.device === '' ? null : told.device;
  const raw = useDeviceLevels(id, 'level', test.startMs - 1);
  const pan = useDeviceLevels(id, 'pan', test.startMs - 1);
  // An instrument measures from its own foot: the first reading stands at the water line.
  const levels = useMemo(() => {
    const shift = test.filledToMm - (raw.some[0]?.levelMm ?? 0);
    return raw.some.map((l) => ({ atMs: l.atMs, levelMm: l.levelMm + shift }));
  }, [raw.some, test.filledToMm]);
  const height = useHeight(levels, pan.some, raw.count);
  const model = shower.state.geometry!.model;
  const suspects = useMemo(() => suspectsOf(shower.state, ratesOf(leaks.finds, leaks.own)), [shower.state, leaks]);
  const held = height ? heldBack(levels, pan.some, height, model.totals.floorMm2) : undefined;
  const places = useMemo(
    () => (height ? atHeight(suspects, height, held).slice(0, NAMED) : []),
    [suspects, height, held],
  );
  const mm = (value: number) => showLength(value, unit);
  const label = devices.data?.devices.find((d) => d.id === id)?.label ?? '';
  const last = levels.at(-1);
  const keep = () => {
    const bodies = [seriesBody(test, 'water', raw.all(), label, STEP_MM)];
    if (pan.count > 0) bodies.push(seriesBody(test, 'pan', pan.all(), label, STEP_MM));
    void writeAll(
      shower.id,
      bodies.map((body) => ({ kind: 'flood-reading' as const, body })),
    ).then(onClose);
  };
  return (
    <Sheet title={t('flood.live.title')} onClose={onClose}>
      <div className="flex flex-col gap-3">
        <SelectField
          label={t('flood.live.which')}
          value={told.device}
          none={t('flood.live.choose')}
          options={(devices.data?.devices ?? []).map((d) => ({ id: d.id, label: d.label }))}
          onChange={(e) => tell({ device: e.target.value })}
        />
        {devices.data?.devices.length === 0 && <p className="text-soft">{t('flood.live.none')}</p>}
        {id !== null && (
          <>
            <p role="status" data-testid="live-says">
              {last
                ? t('flood.live.last', {
                    count: raw.count,
                    at: momentWords(last.atMs, zone),
                    level: mm(last.levelMm),
                  })
                : t('flood.live.nothing')}
              {raw.problem && (
                <span className="block text-hold">
                  {raw.problem} {t('flood.live.away')}
                </span>
              )}
            </p>
            {levels.length > 1 && (
              <LiveChart levels={levels} heightMm={height?.heightMm ?? null} words={t('flood.live.chart')} />
            )}
            {height && <Where model={model} height={height} held={held} places={places} />}
            {height && <TellCall shower={shower} levelMm={test.filledToMm} height={height} held={held} />}
            {test.running && (
              <button type="button" className="key key-main" disabled={raw.count === 0} onClick={keep}>
                {t('flood.live.take', { count: raw.count })}
              </button>
            )}
          </>
        )}
      </div>
    </Sheet>
  );
}
