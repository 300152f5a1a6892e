import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { ShowerState } from '../log/state';
import { foldShower } from '../proof/fold/foldShower';
import { ownBlockersOf } from '../proof/holds/release';
import { isOf } from '../rules/checks/check';
import { defaultRuleBook } from '../rules/defaultRuleBook';
import { anyShower } from '../tests/anyShower';
import { sampleShower } from '../tests/sampleShower';
import { BOOK, begun, climb, fold, lapReading, pass, seamId, type Tablet, tablet } from '../tests/sampleTablet';
import { judge } from './judge';
import { judgeOf } from './judges';
import { placeOf } from './place';
import { lastStop, restWithin, type Stop, stopFrom, walk } from './walk';

/** Says what a stop asks, once, as a hand would: one reading, one figure, or one look at the thing. */
function answer(t: Tablet, state: ShowerState, stop: Stop): void {
  const { requirement, nextAtMm } = stop.judgements[0]!;
  const { check, element, side, stage } = requirement;
  const body = { stage: stage.key, checks: [check.id], places: [placeOf(state, element)], answer: 'ok' as const };
  if (stop.asks === 'look')
    for (const group of stop.groups) t.write('look', { stage: stage.key, ...group, answer: 'ok' });
  else if (isOf(check, 'measured')) {
    const { atLeastMm, atMostMm } = check.limit;
    const valueMm = atMostMm ?? atLeastMm ?? 0;
    t.write('reading', {
      stage: stage.key,
      check: check.id,
      place: placeOf(state, element, side ? { side } : {}),
      atMm: nextAtMm ?? 0,
      valueMm,
      typed: String(valueMm),
      instrument: 'tape',
    });
  } else if (isOf(check, 'number'))
    t.write('look', { ...body, number: check.limit?.atLeast ?? check.limit?.atMost ?? 1 });
  else t.write('look', { ...body, shownBy: 'paper 12' });
}

/** Walks a stage to the end of its way; gives the stops in the order in which they were answered. */
function walkThrough(t: Tablet, stage: string, skip: (s: Stop) => boolean = () => false): Stop[] {
  const way: Stop[] = [];
  const skipped = new Set<string>();
  let from: string | null = null;
  for (let k = 0; k < 600; k += 1) {
    const state = fold(t.entries);
    const stop = stopFrom(walk(state, stage), from, skipped);
    if (!stop) return way;
    from = stop.key;
    if (stop.asks === 'work' || skip(stop)) {
      skipped.add(stop.key);
      continue;
    }
    way.push(stop);
    answer(t, state, stop);
  }
  throw new Error('the walk never ends');
}

describe('a walk through a stage', () => {
  it('asks all that holds the stage, and nothing is left when it was answered', () => {
    for (const stage of ['base', 'boards', 'penetrations', 'curb', 'membrane', 'drain-tie-in']) {
      const t = begun({ niche: true });
      climb(t, stage);
      walkThrough(t, stage);
      expect(ownBlockersOf(fold(t.entries), stage)).toEqual([]);
    }
  });
  it('keeps what the cards keep: the same checks of the same places, readings on the same sides', () => {
    const walked = begun({ niche: true });
    climb(walked, 'membrane');
    walkThrough(walked, 'membrane');
    const by = fold(walked.entries);
    for (const r of by.requirements.filter((x) => x.stage.key === 'membrane')) {
      const { wantsLook, answeredBy } = judgeOf(r.check);
      const mine = (by.evidence.get(r.element) ?? []).filter((e) => e.check === r.check.id);
      if (wantsLook?.(r.check)) {
        const looks = mine.filter((e) => e.kind === 'look');
        expect(looks).toHaveLength(1);
        expect(looks[0]!.stretch).toEqual({ fromMm: 0, toMm: r.lengthMm });
      }
      if (answeredBy(r.check) === 'reading')
        expect(mine.filter((e) => e.kind === 'reading' && e.side === r.side).length).toBeGreaterThan(0);
    }
  });
  it('reaches whatever holds any shower', () => {
    fc.assert(
      fc.property(anyShower, fc.constantFrom('bonded-sheet', 'sealant-board'), ({ geometry }, method) => {
        const t = tablet(1);
        t.write('shower-created', { name: 'Any', job: 'Any', crewId: 'crew', timeZone: 'UTC' });
        t.write('geometry-set', { version: 1, geometry });
        t.write('rules-pinned', { ruleBook: BOOK.id, version: BOOK.version, method });
        const state = fold(t.entries);
        if (!state.geometry) return;
        for (const { key } of state.rules!.method.stages) {
          const stops = walk(state, key);
          const reached = new Set(
            stops
              .filter((s) => s.isOpen)
              .flatMap((s) =>
                s.judgements.map((j) => `${j.requirement.check.id} ${j.requirement.element} ${j.requirement.side}`),
              ),
          );
          const kinds = new Set(
            stops.filter((s) => s.asks === 'work').map((s) => s.judgements[0]!.requirement.check.kind),
          );
          for (const b of ownBlockersOf(state, key))
            if (b.kind === 'check' && !kinds.has(b.judgement.requirement.check.kind))
              expect(reached).toContain(`${b.check} ${b.element} ${b.side}`);
          expect(new Set(stops.map((s) => s.key)).size).toBe(stops.length);
        }
      }),
      { numRuns: 25 },
    );
  });
  it('asks a thing’s readings from one corner to the other and looks at the thing once, at its end', () => {
    const t = begun({ niche: true });
    climb(t, 'membrane');
    const way = walkThrough(t, 'membrane');
    const things = way.map((s) => s.thing.id).filter((id, k, all) => id !== all[k - 1]);
    expect(new Set(things).size).toBe(things.length);
    for (const thing of things) {
      const here = way.filter((s) => s.thing.id === thing);
      const looks = here.filter((s) => s.asks === 'look');
      expect(looks.length).toBeLessThanOrEqual(1);
      if (looks.length > 0) expect(here.at(-1)!.asks).toBe('look');
    }
  });
  it('never answers for what could not be seen: it is set aside, holds the stage and is not asked twice', () => {
    const t = begun();
    climb(t, 'membrane');
    const before = fold(t.entries);
    const seam = seamId(before, 'back-lap');
    const checks = before.requirements
      .filter((r) => r.element === seam && r.stage.key === 'membrane' && judgeOf(r.check).wantsLook?.(r.check))
      .map((r) => r.check.id);
    t.write('look', { stage: 'membrane', checks, places: [placeOf(before, seam)], answer: 'could-not-see' });
    walkThrough(t, 'membrane');
    const after = fold(t.entries);
    const looks = (after.evidence.get(seam) ?? []).filter((e) => e.kind === 'look');
    expect(looks.map((e) => e.answer)).toEqual(checks.map(() => 'could-not-see'));
    const holding = ownBlockersOf(after, 'membrane');
    expect(holding.length).toBeGreaterThan(0);
    expect(holding.every((b) => b.kind === 'check' && b.element === seam)).toBe(true);
  });
  it('looks past a defect’s stretch and never over it', () => {
    const t = begun();
    climb(t, 'membrane');
    const before = fold(t.entries);
    const seam = seamId(before, 'back-lap');
    const [r] = before.requirements.filter(
      (x) => x.element === seam && x.stage.key === 'membrane' && judgeOf(x.check).wantsLook?.(x.check),
    );
    const bad = { fromMm: 200, toMm: 400 };
    t.write('look', {
      stage: 'membrane',
      checks: [r!.check.id],
      places: [placeOf(before, seam, bad)],
      answer: 'defect',
    });
    walkThrough(t, 'membrane');
    const j = judge(fold(t.entries), r!);
    expect(j.missing).toEqual([]);
    expect(j.failed).toEqual([bad]);
    expect(ownBlockersOf(fold(t.entries), 'membrane').length).toBeGreaterThan(0);
  });
  it('goes on where the last word was said, and ends with what was skipped left open', () => {
    const t = begun();
    climb(t, 'membrane');
    const seam = seamId(fold(t.entries), 'floor');
    const start = fold(t.entries);
    const stop = walk(start, 'membrane').find((s) => s.asks === 'reading' && s.key.startsWith(seam))!;
    expect(lastStop(start, 'membrane', walk(start, 'membrane'))).toBeNull();
    lapReading(t, seam, stop.judgements[0]!.requirement.side, 70, 60);
    const now = fold(t.entries);
    const stops = walk(now, 'membrane');
    expect(lastStop(now, 'membrane', stops)).toBe(stop.key);
    expect(stopFrom(stops, lastStop(now, 'membrane', stops))!.key).toBe(stop.key);
    const key = stops[0]!.key;
    walkThrough(t, 'membrane', (s) => s.key === key);
    const after = fold(t.entries);
    expect(stopFrom(walk(after, 'membrane'), null)!.key).toBe(key);
  });
  it('asks the readings of the firm’s plan beyond the pattern', () => {
    const t = begun();
    climb(t, 'membrane');
    pass(t, 'membrane');
    const state = fold(t.entries);
    expect(stopFrom(walk(state, 'membrane'), null)).toBeNull();
    const [lap] = state.requirements.filter((r) => r.check.id === 'lap');
    const more = judge(state, lap!).readings.length + 1;
    const stop = stopFrom(
      walk(state, 'membrane', (r) => (r === lap ? more : null)),
      null,
    );
    expect(stop!.judgements[0]!.requirement).toBe(lap);
  });
  describe('the rest within reach', () => {
    const INCH = 25.4;
    /** Reads the rest as one tap does: at every place that is named, what was read last. */
    const readRest = (t: Tablet, state: ShowerState, stop: Stop) => {
      const { lastMm, rest } = restWithin(walk(state, 'membrane'), stop, INCH);
      for (const { requirement: r, atMm } of rest)
        t.write('reading', {
          stage: 'membrane',
          check: r.check.id,
          place: placeOf(state, r.element, r.side ? { side: r.side } : {}),
          atMm,
          valueMm: lastMm!,
          typed: 'rest',
          instrument: 'tape',
        });
      return rest;
    };
    const firstReading = (t: Tablet) =>
      walk(fold(t.entries), 'membrane').find((s) => s.asks === 'reading' && s.key.startsWith('floor-wall'))!;
    it('meets the pattern of both laps of a seam, and of no other seam', () => {
      const t = begun();
      climb(t, 'membrane');
      const stop = firstReading(t);
      const { element, side } = stop.judgements[0]!.requirement;
      lapReading(t, element, side, 2 * INCH, 60);
      const rest = readRest(t, fold(t.entries), stop);
      expect(new Set(rest.map((r) => r.requirement.element))).toEqual(new Set([element]));
      expect(new Set(rest.map((r) => r.requirement.side)).size).toBe(2);
      const left = walk(fold(t.entries), 'membrane').filter((s) => s.isOpen && s.asks === 'reading');
      expect(left.some((s) => s.judgements[0]!.requirement.element === element)).toBe(false);
      expect(left.length).toBeGreaterThan(0);
    });
    it('knows no value before a hand has measured once, and offers nothing beside a value that fails', () => {
      const t = begun();
      climb(t, 'membrane');
      const stop = firstReading(t);
      expect(restWithin(walk(fold(t.entries), 'membrane'), stop, INCH).lastMm).toBeNull();
      const { element, side } = stop.judgements[0]!.requirement;
      lapReading(t, element, side, 2 * INCH, 20);
      expect(restWithin(walk(fold(t.entries), 'membrane'), stop, INCH)).toEqual({ lastMm: null, rest: [] });
    });
    it('reaches over all of a niche', () => {
      const book = defaultRuleBook();
      const t = tablet(1);
      t.write('shower-created', { name: 'Niche', job: 'Any', crewId: 'crew', timeZone: 'UTC' });
      t.write('geometry-set', { version: 1, geometry: sampleShower({ niche: true }) });
      t.write('rules-pinned', { ruleBook: book.id, version: book.version, method: 'bonded-sheet' });
      const stops = walk(
        foldShower(t.entries, () => book),
        'membrane',
      );
      const stop = stops.find((s) => s.asks === 'reading' && s.thing.kind === 'niche')!;
      const { rest } = restWithin(stops, stop, INCH);
      expect(new Set(rest.map((r) => r.requirement.element)).size).toBeGreaterThan(3);
    });
  });
});
