import type { FilmRecord } from '@careful-seam/core/membrane/film/filmRecords';
import type { FilmJudged, FilmLimits, ZoneFilm } from '@careful-seam/core/membrane/film/judgeFilm';
import { UM_PER_MIL } from '@careful-seam/core/membrane/film/wetGauge';
import { FT2_PER_M2, US_GALLON_L } from '@careful-seam/core/units/measures';
import type { Words } from '../texts/language';
import type { ShownUnit } from './sentences';

/** A quart, L: what small amounts are told in. */
const QUART_L = US_GALLON_L / 4;

/** A film: mils to a tenth under 10, or whole micrometres. */
export function filmWords(um: number, unit: ShownUnit): string {
  if (unit === 'mm') return `${Math.round(um)} µm`;
  const mil = um / UM_PER_MIL;
  return `${mil < 10 ? Math.round(mil * 10) / 10 : Math.round(mil)} mil`;
}

/** A volume: gallons, quarts when it is less than one, or litres. */
export function bucketWords(litres: number, unit: ShownUnit): string {
  if (unit === 'mm') return `${litres < 10 ? litres.toFixed(2) : litres.toFixed(1)} L`;
  if (litres < US_GALLON_L * 0.995) return `${(litres / QUART_L).toFixed(1)} qt`;
  return `${(litres / US_GALLON_L).toFixed(2)} gal`;
}

/** An area: square feet or square metres. */
export function areaWords(m2: number, unit: ShownUnit): string {
  return unit === 'in' ? `${(m2 * FT2_PER_M2).toFixed(1)} sq ft` : `${m2.toFixed(2)} m²`;
}

/** What is wrong with a zone, or what is known of it, without its name. */
export function zoneSentence(t: Words, z: ZoneFilm, limits: FilmLimits, unit: ShownUnit): string {
  const least = limits.dryLeastUm === null ? '' : filmWords(limits.dryLeastUm, unit);
  const most = limits.dryMostUm === null ? '' : filmWords(limits.dryMostUm, unit);
  const said = {
    dry: z.meanDryUm === null ? '' : filmWords(z.meanDryUm, unit),
    least,
    most,
    coats: z.coats.length,
    needed: z.coatsNeeded,
    missing: bucketWords(z.missingL, unit),
    gauge: z.thinnestWet
      ? t('film.interval', {
          from: filmWords(z.thinnestWet.wettedUm, unit),
          to: filmWords(z.thinnestWet.nextUm, unit),
        })
      : '',
    spot: z.spots ? filmWords(z.spots.lowestSpotUm, unit) : '',
    thickest: z.spots ? filmWords(z.spots.highestSpotUm, unit) : '',
    taken: z.spotsTaken,
    wanted: z.spotsWanted,
  };
  if (z.verdict === 'unseen') return t('film.zone.unseen', said);
  if (z.verdict === 'pass')
    return t(
      z.meanDryUm === null ? (z.spots ? 'film.zone.passSpots' : 'film.zone.passCorner') : 'film.zone.pass',
      said,
    );
  return z.reasons.map((r) => t(`film.zone.${r}`, said)).join(' ');
}

/** The verdict on a film as one sentence: the zone that decides, its figure, and what is missing. */
export function filmSentence(t: Words, judged: FilmJudged, limits: FilmLimits, unit: ShownUnit): string {
  if (judged.verdict === 'pass') return t('film.pass');
  const wrong = judged.zones.filter((z) => z.verdict === judged.verdict);
  const worst = [...wrong].sort((a, b) => (a.meanDryUm ?? 0) - (b.meanDryUm ?? 0))[0];
  const first = worst
    ? t('film.named', { zone: t(`zone.${worst.zone}`), words: zoneSentence(t, worst, limits, unit) })
    : '';
  const more = wrong.length > 1 ? ` ${t('film.moreZones', { count: wrong.length - 1 })}` : '';
  return `${t(`film.${judged.verdict}`)} ${first}${more}`;
}

/** One record of a film in words: what went on where, or what a gauge said. */
export function filmRecordWords(t: Words, record: FilmRecord, unit: ShownUnit): string {
  switch (record.of) {
    case 'coat':
      return t(record.waterL > 0 ? 'film.record.thinned' : 'film.record.coat', {
        coat: record.coat,
        zones: record.zones.map((z) => t(`zone.${z}`)).join(', '),
        volume: bucketWords(record.volumeL, unit),
        water: bucketWords(record.waterL, unit),
      });
    case 'wet':
      return t('film.record.wet', {
        zone: t(`zone.${record.zone}`),
        coat: record.coat,
        from: filmWords(record.wettedUm, unit),
        to: filmWords(record.nextUm, unit),
      });
    case 'dry':
      return t('film.record.dry', {
        zone: t(`zone.${record.zone}`),
        um: record.spotUm.map((u) => filmWords(u, unit)).join(', '),
        by: t(`film.gauge.${record.by}`),
      });
  }
}

/** A range in words; empty where nobody set one end of it. */
function rangeWords(t: Words, leastUm: number | null, mostUm: number | null, unit: ShownUnit): string {
  const [least, most] = [leastUm, mostUm].map((um) => (um === null ? '' : filmWords(um, unit)));
  if (least && most) return t('limit.between', { least, most });
  if (least) return t('limit.atLeast', { least });
  return most ? t('limit.atMost', { most }) : '';
}

/** The films that are asked, dry in all and wet in one coat; that none is entered where there is none. */
export function filmLimitWords(t: Words, limits: FilmLimits, unit: ShownUnit): string {
  const dry = rangeWords(t, limits.dryLeastUm, limits.dryMostUm, unit);
  const wet = rangeWords(t, limits.wetLeastUm, limits.wetMostUm, unit);
  const said = [
    ...(dry ? [t('film.dryLimit', { range: dry })] : []),
    ...(wet ? [t('film.wetLimit', { range: wet })] : []),
  ];
  return said.length > 0 ? said.join(', ') : t('limit.none');
}
