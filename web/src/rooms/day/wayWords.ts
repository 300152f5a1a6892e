import type { DayStop, DayStops, NotToday } from '@careful-seam/core/plan/dayStops';
import type { Price } from '@careful-seam/core/plan/inspectorDay';
import type { Moved } from '@careful-seam/core/plan/whatMoved';
import { clockWords, hourWords, momentWords } from '@careful-seam/words/sentences/moments';
import type { Words } from '@careful-seam/words/texts/language';

/** An hour, ms. */
const HOUR_MS = 3_600_000;

/** Hours as people say them: 35 min, 2 h, 2 h 30 min. */
function hoursWords(t: Words, hours: number): string {
  const minutes = Math.round(hours * 60);
  const [h, m] = [Math.floor(minutes / 60), minutes % 60];
  if (h === 0) return t('way.minutes', { count: m });
  return m === 0 ? t('way.hours', { count: h }) : `${t('way.hours', { count: h })} ${t('way.minutes', { count: m })}`;
}

/** Why one goes there, and what is lost after a moment. */
export function stopWords(t: Words, stop: DayStop, zone: string, nowMs: number): string {
  const { label, opensMs, closesMs } = stop;
  const why = stop.contested
    ? t('rounds.contested', { stage: label })
    : t(`way.why.${stop.reason}`, { stage: label, at: hourWords(opensMs, zone), count: stop.open });
  if (closesMs === null) return stop.loss === 'idle' ? `${why} ${t('way.loss.idle')}` : why;
  const lost = t(`way.loss.${stop.loss ?? 'covered'}`, { at: hourWords(closesMs, zone) });
  return `${why} ${closesMs < nowMs ? t('way.loss.past', { at: hourWords(closesMs, zone) }) : lost}`;
}

/** When a wait or the water is likely over; a look may come later, in the hours of whoever looks. */
const till = ({ planned: { ahead }, fromMs }: NotToday, zone: string): string =>
  hourWords(ahead.flood?.endMs ?? ahead.stages[0]!.wait?.likelyMs ?? fromMs, zone);

/** Why a shower can't be looked at on these days, from when on it can, and what would win hours. */
export function notTodayWords(t: Words, row: NotToday, zone: string): string {
  const { ahead, goods, squeeze, plan } = row.planned;
  const stage = ahead.stages[0]!;
  const at = hourWords(row.fromMs, zone);
  const parts: string[] = [];
  if (row.waits === 'goods') parts.push(t('way.waits.goods', { what: goods[row.stage]!.what, at }));
  else if (row.waits === 'cure' && stage.wait?.never) parts.push(t('way.waits.never', { stage: row.label }));
  else parts.push(t(`way.waits.${row.waits}`, { stage: row.label, at, count: stage.defects, till: till(row, zone) }));
  const { wait } = stage;
  if (row.waits === 'cure' && wait) {
    if (wait.decides !== 'label') parts.push(t(`way.held.${wait.decides}`));
    if (wait.heatWinsHours >= 1) parts.push(t('way.heat', { hours: hoursWords(t, Math.round(wait.heatWinsHours)) }));
    if (wait.latestMs - wait.likelyMs > HOUR_MS && !wait.never)
      parts.push(t('way.band', { from: hourWords(wait.earliestMs, zone), to: hourWords(wait.latestMs, zone) }));
  }
  if (squeeze) parts.push(squeezeWords(t, squeeze, (key) => ahead.stages.find((s) => s.key === key)?.label ?? key));
  else if (plan.stages.length > 1) parts.push(t('way.readyOn', { at: momentWords(plan.readyMs, zone) }));
  return parts.join(' ');
}

/** A promised day that can't be kept: days that it needs and has, and where hours are missing. */
function squeezeWords(
  t: Words,
  squeeze: NonNullable<NotToday['planned']['squeeze']>,
  labelOf: (key: string) => string,
): string {
  const { needs, left, missing } = squeeze;
  const said = t('way.squeeze', { needs, left });
  const most = [...missing].sort((a, b) => b.hours - a.hours)[0];
  return most
    ? `${said} ${t('way.missing', { from: labelOf(most.stage), to: labelOf(most.next), hours: hoursWords(t, most.hours) })}`
    : said;
}

/** What going otherwise costs: late looks first, then crews that stand, then the road. */
export function priceWords(
  t: Words,
  price: Price,
  nameOf: (id: string) => string,
  crewOf: (id: string) => string,
): string {
  const parts: string[] = [];
  if (price.late.length > 0) parts.push(t('way.price.late', { list: price.late.map(nameOf).join(', ') }));
  for (const { crewId, hours } of price.crews.slice(0, 2))
    parts.push(t('way.price.idle', { hours: hoursWords(t, hours), crew: crewOf(crewId) }));
  if (price.crews.length === 0 && price.idleHours < -1 / 60)
    parts.push(t('way.price.less', { hours: hoursWords(t, -price.idleHours) }));
  if (Math.abs(price.driveMinutes) >= 1)
    parts.push(
      t(price.driveMinutes > 0 ? 'way.price.drive' : 'way.price.driveLess', {
        minutes: t('way.minutes', { count: Math.abs(Math.round(price.driveMinutes)) }),
      }),
    );
  return parts.length > 0 ? parts.join(' · ') : t('way.price.nothing');
}

/** What moved since a way was seen, one sentence for each cause: what can't be looked at any more with why. */
export function movedWords(
  t: Words,
  moved: readonly Moved[],
  nameOf: (id: string) => string,
  { notToday }: Pick<DayStops, 'notToday'>,
  zone: string,
): string[] {
  return moved.map(({ id, what, byMs }) => {
    const waits = what === 'gone' ? notToday.find((n) => n.shower === id) : undefined;
    if (waits) return `${nameOf(id)}: ${notTodayWords(t, waits, zone)}`;
    return t(`way.moved.${what}`, { name: nameOf(id), hours: hoursWords(t, byMs / HOUR_MS) });
  });
}

/** When a stop begins: the hour alone today, with its day later. */
export const beginWords = (ms: number, zone: string, today: boolean): string =>
  today ? clockWords(ms, zone) : hourWords(ms, zone);
