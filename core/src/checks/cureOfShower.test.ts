import { describe, expect, it } from 'vitest';
import { foldShower } from '../proof/fold/foldShower';
import { defaultRuleBook } from '../rules/defaultRuleBook';
import { sampleShower } from '../tests/sampleShower';
import { INSPECTOR, MANAGER, placeOf, releaseBody, type Tablet, tablet } from '../tests/sampleTablet';
import { showerFilms } from './film';
import { judge } from './judge';
import { waitLayers } from './wait';

const BOOK = defaultRuleBook();
const HOUR = 3_600_000;
const fold = (t: Tablet) => foldShower(t.entries, () => BOOK);

function liquid(author = INSPECTOR): Tablet {
  const t = tablet(3, undefined, author);
  t.write('shower-created', { name: 'Loft', job: 'Mill', crewId: 'crew-1', timeZone: 'Europe/Vienna' });
  t.write('geometry-set', { version: 1, geometry: sampleShower() });
  t.write('rules-pinned', { ruleBook: BOOK.id, version: BOOK.version, method: 'liquid', beginsAt: 'membrane' });
  return t;
}
const check = (t: Tablet, id: string) => {
  const state = fold(t);
  const requirement = state.requirements.find((r) => r.check.id === id)!;
  return { state, requirement, judged: judge(state, requirement) };
};
const nowMs = (t: Tablet) => Date.parse(t.entries.at(-1)!.observedAt);
function coat(t: Tablet, number: number, hoursAgo: number, volumeL = 10): void {
  t.write('reading', {
    stage: 'membrane',
    check: 'film',
    place: placeOf(fold(t), 'shower'),
    atMm: 0,
    valueMm: 1,
    typed: `${volumeL} L`,
    instrument: 'bucket',
    film: {
      of: 'coat',
      zones: ['walls', 'lower-walls', 'floor', 'curb'],
      coat: number,
      volumeL,
      waterL: 0,
      doneAt: new Date(nowMs(t) - hoursAgo * HOUR).toISOString(),
    },
  });
}
const air = (t: Tablet, hoursAgo: number, airC: number, relativeHumidity = 0.5) =>
  t.write('climate-reading', {
    airC,
    relativeHumidity,
    readAt: new Date(nowMs(t) - hoursAgo * HOUR).toISOString(),
  });
const tieIn = (t: Tablet) =>
  t.write('work-done', { stage: 'drain-tie-in', crewId: 'crew-1', who: 'P', day: '2026-03-01' });

describe('a film as a check', () => {
  it('is unseen, then undecided without a label, and counts coats by zone', () => {
    const t = liquid();
    expect(check(t, 'film').judged.verdict).toBe('unseen');
    coat(t, 1, 5);
    const { state, judged } = check(t, 'film');
    expect(judged.verdict).toBe('fail');
    const film = showerFilms(state)[0]!;
    expect(film.judged.zones.find((z) => z.zone === 'walls')).toMatchObject({ coats: [1], coatsNeeded: 2 });
    expect(film.readings).toHaveLength(1);
  });
  it('forgets a coat that was taken back', () => {
    const t = liquid();
    coat(t, 1, 5);
    t.write('correction', { target: t.entries.at(-1)!.id, action: 'withdraw' });
    expect(check(t, 'film').judged.verdict).toBe('unseen');
  });
});

describe('a wait that the air counts in', () => {
  it('begins with the last coat, not with what the crew said later', () => {
    const t = liquid();
    coat(t, 1, 30);
    coat(t, 2, 20);
    tieIn(t);
    const { state, requirement, judged } = check(t, 'membrane-cure');
    const layers = waitLayers(state, requirement.check as never)!;
    expect(layers.map((l) => l.told).sort()).toEqual(['coat', 'coat', 'work']);
    // The tie-in was just done: it is the slowest, by the book's 12 h.
    expect(judged).toMatchObject({ verdict: 'undecided' });
    expect(layers.at(-1)!.told).toBe('work');
  });
  it('moves with a damp night, and passes once it is over', () => {
    const t = liquid();
    coat(t, 1, 40);
    coat(t, 2, 30);
    tieIn(t);
    const dry = check(t, 'membrane-cure').judged.readyAtMs!;
    air(t, 1, 14, 0.85);
    const damp = check(t, 'membrane-cure').judged.readyAtMs!;
    expect(damp).toBeGreaterThan(dry + 24 * HOUR);
    air(t, 0, 25, 0.4);
    expect(check(t, 'membrane-cure').judged.readyAtMs!).toBeLessThan(damp);
  });
  it('has no end in sight where the air is full', () => {
    const t = liquid();
    coat(t, 1, 2);
    tieIn(t);
    air(t, 0, 15, 0.99);
    expect(check(t, 'membrane-cure').judged).toMatchObject({ verdict: 'undecided', readyAtMs: null });
  });
  it('upheld by a manager stands, until the air says something worse than they knew', () => {
    const t = liquid(MANAGER);
    coat(t, 1, 40);
    t.write('work-done', { stage: 'membrane', crewId: 'crew-1', who: 'P', day: '2026-03-01' });
    t.write('stage-released', releaseBody('cure'));
    const before = fold(t);
    const laid = waitLayers(before, check(t, 'membrane-cure').requirement.check as never);
    expect(laid).toBeNull();
    tieIn(t);
    t.write('stage-released', releaseBody('cure', 'waited by the book'));
    const cure = () => {
      const { word, because } = fold(t).stages.get('cure')!;
      return [word, because?.blockers.map((b) => b.kind)];
    };
    expect(cure()).toEqual(['held', ['lower-stage', 'lower-stage']]);
    air(t, 0, 8, 0.9);
    expect(cure()).toEqual(['contested', ['check']]);
  });
  it('and that nobody upheld comes back as contested', () => {
    const early = liquid(MANAGER);
    tieIn(early);
    for (const stage of ['membrane', 'drain-tie-in']) early.write('stage-released', releaseBody(stage, 'as built'));
    const t = tablet(4, nowMs(early) + 30 * HOUR);
    t.hears(early.entries);
    t.write('note', { words: 'next day' });
    coat(t, 1, 28);
    const places = [{ element: 'shower' }];
    const looks = ['ready-colour', 'ready-nail', 'ready-transfer'];
    t.write('look', { stage: 'cure', checks: looks, places, answer: 'ok' });
    t.write('stage-released', releaseBody('cure'));
    const cure = () => foldShower([...early.entries, ...t.entries], () => BOOK).stages.get('cure')!;
    // What lies below was upheld before the coat was known, and is contested itself; the wait is not yet.
    expect(cure().because).toMatchObject({ cause: 'lower-stage' });
    // A single reading long after says nothing of the hours before it; a logger's night does.
    air(t, 0, 9, 0.9);
    expect(cure().because).toMatchObject({ cause: 'lower-stage' });
    for (const hoursAgo of [28, 26, 24, 22, 20, 18, 16, 14, 12, 10, 8, 6, 4, 2]) air(t, hoursAgo, 9, 0.9);
    expect(cure().word).toBe('contested');
    expect(cure().because!.blockers).toMatchObject([{ kind: 'check', check: 'membrane-cure' }]);
  });
  it('that only a guess between far readings makes longer gives no reason to doubt a release', () => {
    const late = (hoursAgo: readonly number[], daysOn = 0, airC = 14) => {
      const early = liquid(MANAGER);
      tieIn(early);
      for (const stage of ['membrane', 'drain-tie-in']) early.write('stage-released', releaseBody(stage, 'as built'));
      const t = tablet(4, nowMs(early) + 30 * HOUR);
      t.hears(early.entries);
      t.write('note', { words: 'next day' });
      coat(t, 1, 28);
      const looks = ['ready-colour', 'ready-nail', 'ready-transfer'];
      t.write('look', { stage: 'cure', checks: looks, places: [{ element: 'shower' }], answer: 'ok' });
      t.write('stage-released', releaseBody('cure'));
      for (const h of hoursAgo) air(t, h, airC, 0.9);
      if (daysOn > 0) {
        t.until(t.nowMs() + daysOn * 24 * HOUR);
        air(t, 0, 23, 0.4);
        t.until(t.nowMs() + daysOn * 24 * HOUR);
        t.write('note', { words: 'days later' });
      }
      const state = foldShower([...early.entries, ...t.entries], () => BOOK);
      const { requirement, judged } = {
        requirement: state.requirements.find((r) => r.check.id === 'membrane-cure')!,
        judged: judge(state, state.requirements.find((r) => r.check.id === 'membrane-cure')!),
      };
      const { bridgedHours } = waitLayers(state, requirement.check as never)!.at(-1)!;
      return { because: state.stages.get('cure')!.because, verdict: judged.verdict, bridgedHours };
    };
    const every = (hours: number) => Array.from({ length: Math.floor(28 / hours) + 1 }, (_, k) => 28 - k * hours);
    // Read every second hour: it was not over.
    const read = late(every(2));
    expect(read).toMatchObject({ verdict: 'undecided', bridgedHours: 0, because: { cause: 'came-to-light' } });
    // Over by now, it was not when it was released.
    const since = late(every(2), 20);
    expect(since).toMatchObject({ verdict: 'pass', because: { cause: 'came-to-light' } });
    expect(since.because!.blockers).toMatchObject([{ kind: 'check', check: 'membrane-cure' }]);
    // A reading at either end alone: the hours between are a guess.
    const guessed = late([28, 0]);
    expect(guessed.bridgedHours).toBeGreaterThan(20);
    expect(guessed).toMatchObject({ verdict: 'undecided', because: { cause: 'lower-stage' } });
    // Hourly but for a pause: bridged where it is longer than three hours, and a guess where that is a quarter of the label's.
    const pause = (hours: number) => late([...every(1).filter((h) => h > 20 || h <= 20 - hours)]);
    expect(pause(1)).toMatchObject({ bridgedHours: 0, because: { cause: 'came-to-light' } });
    expect(pause(5)).toMatchObject({ because: { cause: 'lower-stage' } });
  });
});
