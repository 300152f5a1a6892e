import { filmPlausible } from '@careful-seam/core/membrane/film/filmArithmetic';
import type { FilmRecord } from '@careful-seam/core/membrane/film/filmRecords';
import { DRY_GAUGES } from '@careful-seam/core/membrane/film/filmSpots';
import type { FilmLimits, ZoneFilm } from '@careful-seam/core/membrane/film/judgeFilm';
import { GAUGE_MILS, judgeWet, UM_PER_MIL, wetInterval } from '@careful-seam/core/membrane/film/wetGauge';
import { filmWords } from '@careful-seam/words/sentences/filmWords';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { readFilm } from '../../shared/volumes';
import { Choice } from '../../ui/Choice';
import { usePreferences } from '../../ui/preferences';
import { problemWords } from '../../ui/words';

/** Teeth of a metric notch gauge, µm [common practice, no source]. */
const GAUGE_UM = [50, 75, 100, 150, 200, 250, 300, 350, 400, 450, 500, 600, 700, 800, 900, 1000, 1200, 1500];

/** The zone that is read. */
interface Props {
  /** The zone that is read. */
  zone: ZoneFilm;
  /** The limits of the label, or of the book where the label says nothing. */
  limits: FilmLimits;
  /** Told of a reading that is whole. */
  onKeep: (record: FilmRecord) => Promise<unknown>;
}

/** The coat that is read: the last one that went on. */
const coatOf = (zone: ZoneFilm): number => Math.max(1, zone.coats.at(-1) ?? 1);

/** A notch gauge in the wet coat: one tap on the last tooth that was wetted. The film lies between it and the next. */
export function WetForm({ zone, limits, onKeep }: Props) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const teeth = unit === 'in' ? GAUGE_MILS.map((m) => m * UM_PER_MIL) : GAUGE_UM;
  const [problem, setProblem] = useState<string | null>(null);
  const [chosen, setChosen] = useState<number | null>(null);
  const coat = chosen !== null && zone.coats.includes(chosen) ? chosen : coatOf(zone);
  const keep = (wetted: number) => {
    const read = wetInterval(teeth, wetted);
    if (!read.ok) return setProblem(problemWords(read.problem));
    setProblem(null);
    void onKeep({ of: 'wet', zone: zone.zone, coat, ...read.value });
  };
  const limit = { leastUm: limits.wetLeastUm, mostUm: limits.wetMostUm };
  return (
    <div className="flex flex-col gap-2">
      <p className="text-soft text-sm">{t('film.wet.what', { coat, zone: t(`zone.${zone.zone}`) })}</p>
      {zone.coats.length > 1 && (
        <Choice
          label={t('film.wet.coat')}
          value={coat}
          options={zone.coats.map((key) => ({ key, label: String(key) }))}
          onChoose={setChosen}
        />
      )}
      <fieldset className="grid grid-cols-5 gap-1.5">
        <legend className="sr-only">{t('film.wet.teeth')}</legend>
        <button type="button" className="key px-1 text-sm" onClick={() => keep(-1)}>
          {t('film.wet.none')}
        </button>
        {teeth.map((um, i) => {
          const next = teeth[i + 1];
          const found = next === undefined ? 'undecided' : judgeWet({ wettedUm: um, nextUm: next }, limit);
          const inside = found === 'pass' && (limit.leastUm !== null || limit.mostUm !== null);
          return (
            <button
              key={um}
              type="button"
              className={`key px-1 font-bold text-lg ${inside ? 'border-ink border-b-4' : ''}`}
              onClick={() => keep(i)}
            >
              {filmWords(um, unit).replace(/ (mil|µm)$/, '')}
            </button>
          );
        })}
      </fieldset>
      <p className="text-soft text-sm">
        {t(limits.wetLeastUm === null ? 'film.wet.noLimit' : 'film.wet.limit', {
          unit: unit === 'in' ? 'mil' : 'µm',
          least: limits.wetLeastUm === null ? '' : filmWords(limits.wetLeastUm, unit),
          most: limits.wetMostUm === null ? '–' : filmWords(limits.wetMostUm, unit),
        })}
      </p>
      {problem && (
        <p role="alert" className="text-hold">
          {problem}
        </p>
      )}
    </div>
  );
}

/** A dry spot: three readings of one place, and what they were read with. */
export function DryForm({ zone, onKeep }: Props) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const [typed, setTyped] = useState<[string, string, string]>(['', '', '']);
  /** What was asked about: kept when it is said again. */
  const [asked, setAsked] = useState('');
  const [by, setBy] = useState<(typeof DRY_GAUGES)[number]>('cut-sample');
  const [problem, setProblem] = useState<string | null>(null);
  const keep = () => {
    const um = typed.map((v) => readFilm(v, unit));
    const bad = um.indexOf(null);
    if (bad >= 0) return setProblem(t('film.dry.unreadable', { number: bad + 1 }));
    const spot = um as [number, number, number];
    const odd = spot.map((v) => filmPlausible(v, 'spotUm')).find((read) => !read.ok);
    if (odd && !odd.ok && asked !== typed.join()) {
      setAsked(typed.join());
      return setProblem(`${problemWords(odd.problem)} ${t('film.askedAgain')}`);
    }
    const mean = (spot[0] + spot[1] + spot[2]) / 3;
    if (zone.meanWetUm !== null && mean > zone.meanWetUm * 1.5)
      return setProblem(
        t('film.dry.thickerThanWet', { dry: filmWords(mean, unit), wet: filmWords(zone.meanWetUm, unit) }),
      );
    setProblem(null);
    setTyped(['', '', '']);
    void onKeep({ of: 'dry', zone: zone.zone, spotUm: spot, by });
  };
  return (
    <div className="flex flex-col gap-2">
      <p className="text-soft text-sm">{t('film.dry.what', { taken: zone.spotsTaken, wanted: zone.spotsWanted })}</p>
      <div className="grid grid-cols-3 gap-2">
        {typed.map((value, i) => (
          <label key={i} className="text-sm">
            <span className="text-soft">{t('film.dry.reading', { number: i + 1 })}</span>
            <input
              className="field font-bold text-lg"
              inputMode="decimal"
              value={value}
              onChange={(e) =>
                setTyped(typed.map((v, k) => (k === i ? e.target.value : v)) as [string, string, string])
              }
            />
          </label>
        ))}
      </div>
      <Choice
        label={t('film.dry.by')}
        value={by}
        options={DRY_GAUGES.map((key) => ({ key, label: t(`film.gauge.${key}`) }))}
        onChoose={setBy}
      />
      {problem && (
        <p role="alert" className="text-hold">
          {problem}
        </p>
      )}
      <button type="button" className="key key-main text-lg" onClick={keep}>
        {t('film.dry.keep')}
      </button>
    </div>
  );
}
