import { describe, expect, it } from 'vitest';
import type { Body } from '../log/bodies';
import { photosNeeded } from '../log/photosNeeded';
import { begun, fold } from '../tests/sampleTablet';
import { symptomsOf, watchedDarkHours } from './floorWatch';
import { suspectsOf } from './ledgerSays';
import { stripOutOf } from './stripOut';
import { DEPTH, partKey, stripParts } from './stripParts';
import { stripGiven, strippedParts, stripTests } from './stripSays';
import { traceCase } from './traceCase';

const photo = (digit: string) => ({ hash: digit.repeat(64), widthPx: 4, heightPx: 3, marks: [] });
const FOOT = 'floor-wall|floor|wall:back';

/** A shower with a call, to which parts can be told. */
function called() {
  const t = begun({ niche: true });
  const call = t.write('call-opened', {
    words: 'A stain',
    symptoms: [{ place: { on: 'inside' }, when: 'after-long', amount: 'damp', signs: ['dark-floor'] }],
  });
  const strip = (part: Body<'part-stripped'>['part'], more: Partial<Body<'part-stripped'>> = {}) =>
    t.write('part-stripped', { call, part, side: 'floor', verdict: 'sound', before: [], after: [], ...more });
  const state = () => fold(t.entries);
  const its = () => state().calls.get(call)!;
  const view = () => {
    const now = state();
    const suspects = suspectsOf(now);
    return traceCase(now.geometry!.model, {
      suspects,
      symptoms: symptomsOf(its()),
      tested: stripTests(its()),
      stripped: stripGiven(now.geometry!.model, suspects, its()),
    })!;
  };
  const share = (id: string) => view().ranked.find((r) => r.suspect.id === id)!.probability;
  return { t, call, strip, state, its, view, share };
}
const fault: Partial<Body<'part-stripped'>> = { verdict: 'faulty', element: FOOT, before: [photo('1')] };

describe('a part that comes out', () => {
  it('at fault, pictured before it was touched and before anything under it, is the way; one broken coming out never is', () => {
    const { strip, its, share, t } = called();
    const before = share(FOOT);
    const broken = strip('floor-membrane', { verdict: 'removal', element: FOOT, before: [photo('1')] });
    expect(share(FOOT)).toBeCloseTo(before, 12);
    strip('floor-membrane', fault);
    expect(strippedParts(its())).toMatchObject([{ isCause: true, why: null }]);
    expect(share(FOOT)).toBeGreaterThan(Math.max(0.5, before * 10));
    t.write('correction', { target: broken, action: 'withdraw' });
    expect(share(FOOT)).toBeGreaterThan(0.5);
  });

  it('without a picture from before, or after what lies under it is out, proves nothing: damage done by the removal is not the leak’s', () => {
    const without = called();
    const before = without.share(FOOT);
    without.strip('floor-membrane', { ...fault, before: [], after: [photo('2')] });
    expect(strippedParts(without.its())).toMatchObject([{ isCause: false, why: 'no-picture' }]);
    expect(without.share(FOOT)).toBeCloseTo(before, 12);

    const late = called();
    late.strip('subfloor');
    late.strip('floor-membrane', fault);
    expect(strippedParts(late.its()).at(-1)).toMatchObject({ isCause: false, why: 'deeper-out' });
    expect(late.share(FOOT)).toBeCloseTo(before, 12);

    // What lies under it on another side, or was not there at all, is no matter.
    const other = called();
    other.strip('subfloor', { verdict: 'absent' });
    other.strip('stud-bay', { side: 'back' });
    other.strip('floor-membrane', fault);
    expect(strippedParts(other.its()).at(-1)).toMatchObject({ isCause: true });
  });

  it('told again counts as it was told last; taken back it counts as nothing', () => {
    const { strip, its, t } = called();
    strip('floor-membrane', fault);
    const again = strip('floor-membrane', { verdict: 'sound' });
    expect(stripTests(its())).toEqual([]);
    t.write('correction', { target: again, action: 'withdraw' });
    expect(stripTests(its())).toMatchObject([{ test: { kind: 'open', element: FOOT }, outcome: 'water' }]);
  });

  it('sound on all its sides and pictured makes less of what lies there, one side alone or unpictured nothing', () => {
    const { strip, state, its } = called();
    const model = state().geometry!.model;
    const of = (id: string) => {
      const suspects = suspectsOf(state());
      return stripGiven(model, suspects, its())[suspects.findIndex((s) => s.id === id)]!;
    };
    strip('floor-membrane', { before: [photo('1')] });
    expect(of(FOOT)).toBe(1);
    strip('wall-membrane', { side: 'back' });
    expect(of(FOOT)).toBe(1);
    strip('wall-membrane', { side: 'back', before: [photo('2')] });
    expect(of(FOOT)).toBe(0.25);
    strip('trap', { before: [photo('3')] });
    expect(of('drain-line')).toBe(0.25);
  });

  it('with a mark of water makes likelier what lies above it and near, and a door frame at fault is the door', () => {
    const { strip, share, its } = called();
    const foot = share(FOOT);
    strip('stud-bay', { side: 'back', mark: { alongMm: 700, heightMm: 900 } });
    expect(share(FOOT)).toBeLessThan(foot);
    strip('door-frame', { side: 'front', verdict: 'faulty', before: [photo('1')] });
    expect(stripTests(its())).toMatchObject([{ test: { element: 'door' }, outcome: 'water' }]);
  });

  it('of a call that is gone is listed, and its pictures are needed all the same', () => {
    const { strip, t, call, state } = called();
    strip('curb', { side: 'front', before: [photo('1')], after: [photo('2')] });
    expect(photosNeeded(t.entries)).toEqual([photo('1').hash, photo('2').hash]);
    t.write('correction', { target: call, action: 'withdraw' });
    expect(state().orphans).toMatchObject([{ why: 'target-withdrawn' }]);
  });
});

describe('the order of a strip-out', () => {
  it('begins with the cautions, goes inwards on each side, and marks what must come out', () => {
    const model = called().state().geometry!.model;
    const suspect = suspectsOf(called().state()).find((s) => s.id === FOOT)!;
    const out = stripOutOf(model, suspect, {});
    const parts = stripParts(model, 'liner-mortar', out);
    expect(parts[0]).toMatchObject({ part: 'safety', comesOut: true });
    expect(new Set(parts.map(partKey)).size).toBe(parts.length);
    for (const [k, p] of parts.entries())
      for (const later of parts.slice(k + 1))
        if (later.side === p.side) expect(DEPTH[later.part]).toBeGreaterThanOrEqual(DEPTH[p.part]);
    expect(parts.every((p) => p.comesOut)).toBe(true);
    // A bonded sheet has no bed over a liner; nobody knows what a shower of others has.
    expect(stripParts(model, 'bonded-sheet', out).some((p) => p.part === 'bed')).toBe(false);
    expect(stripParts(model, 'not-known', out).some((p) => p.part === 'bed')).toBe(true);
    expect(stripParts(model, null, { scope: 'none', walls: [] }).filter((p) => p.comesOut)).toMatchObject([
      { part: 'door-frame' },
    ]);
    const wall = stripParts(model, null, { scope: 'wall', walls: ['back'] }).filter((p) => p.comesOut);
    expect(new Set(wall.map((p) => p.side))).toEqual(new Set(['shower', 'back']));
  });
});

describe('a floor that is watched', () => {
  it('stays dark as long as a picture shows it dark; what somebody remembered gives way to the pictures', () => {
    const { t, call, its, share } = called();
    expect(watchedDarkHours(its())).toBeNull();
    const told = share('drain-line');
    const watch = (hours: number, look: Body<'floor-watched'>['look']) =>
      t.write('floor-watched', { call, hours, look, photos: [photo('4')] });
    watch(6, 'dry');
    expect(watchedDarkHours(its())).toBe(6);
    expect(symptomsOf(its())).toMatchObject([{ darkHours: 6, signs: [] }]);
    expect(share('drain-line')).not.toBeCloseTo(told, 6);
    watch(30, 'patchy');
    watch(26, 'dark');
    expect(watchedDarkHours(its())).toBe(30);
  });
});
