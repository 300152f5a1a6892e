import { describe, expect, it } from 'vitest';
import type { Symptom } from '../log/callBodies';
import { flooded } from '../tests/sampleFlood';
import { begun, fold, placeOf } from '../tests/sampleTablet';
import { atHeight } from './atHeight';
import { curbEnds } from './curbEnds';
import { findsOf, suspectsOf } from './ledgerSays';
import { ratesOf, WORTH_CALLS } from './rates';
import { RATES, SUSPECT_KINDS, USUAL_AMOUNT } from './startingValues';
import type { Suspect } from './suspects';
import { type Tested, traceCase } from './traceCase';

const state = () => fold(begun({ niche: true }).entries);
const stain = (xMm: number, yMm: number, more: Partial<Symptom> = {}): Symptom => ({
  place: { on: 'ceiling', xMm, yMm },
  when: 'after-long',
  amount: 'drops',
  signs: [],
  ...more,
});
/** Under the valve, in plan. */
const valve = (): [number, number] => {
  const [x, y] = state().geometry!.model.penetrations[0]!.point;
  return [x, y];
};
const view = (symptoms: Symptom[], tested: Tested[] = [], its = state()) =>
  traceCase(its.geometry!.model, { suspects: suspectsOf(its), symptoms, tested })!;
const tested = (id: string, test: Tested['test'], outcome: string): Tested => ({ id, test, outcome });
const probability = (of: ReturnType<typeof view>, pick: (s: Suspect) => boolean) =>
  of.ranked.filter((r) => pick(r.suspect)).reduce((sum, r) => sum + r.probability, 0);

describe('what is suspected', () => {
  it('is every seam, corner and opening, the drain, and what is no part of the surface, each once', () => {
    const its = state();
    const { seams, corners, penetrations } = its.geometry!.model;
    const ids = suspectsOf(its).map((s) => s.id);
    expect(new Set(ids).size).toBe(ids.length);
    for (const { id } of [...seams, ...corners, ...penetrations]) expect(ids).toContain(id);
    expect(ids).toEqual(expect.arrayContaining(['drain:d', 'drain-line', 'door']));
    // A bonded sheet has no bed below it that must drain.
    expect(ids).not.toContain('bed');
    expect(suspectsOf(fold([]))).toEqual([]);
  });

  it('an element that stood under water is suspected less than the same one that nobody saw, and less than before its test', () => {
    const t = flooded(begun());
    const before = suspectsOf(fold(begun().entries));
    const after = suspectsOf(fold(t.entries));
    const foot = (list: Suspect[]) => list.find((s) => s.id === 'floor-wall|floor|wall:back')!;
    const below = fold(t.entries).flood?.provedBelowMm ?? null;
    if (below === null) throw new Error('the sample flood proves nothing');
    expect(foot(after)).toMatchObject({ says: 'water' });
    expect(foot(after).prior).toBeLessThan(foot(before).prior / 5);
  });

  it('what a call found itself is no reason to have suspected it before; an earlier open defect is', () => {
    const t = begun();
    const foot = 'floor-wall|floor|wall:back';
    const call = t.write('call-opened', { words: 'A stain', symptoms: [] });
    const before = suspectsOf(fold(t.entries)).find((s) => s.id === foot)!.prior;
    t.write('defect-found', {
      stage: 'call-back',
      place: placeOf(fold(t.entries), foot),
      kind: 'short-lap',
      severity: 'stop',
      words: 'found',
      photos: [],
    });
    const its = fold(t.entries);
    const own = findsOf(its, its.calls.get(call)!);
    expect(own.size).toBe(1);
    expect(suspectsOf(its).find((s) => s.id === foot)!.prior).toBeGreaterThan(before * 2);
    expect(suspectsOf(its, RATES, own).find((s) => s.id === foot)!.prior).toBeCloseTo(before, 12);
    // Of a later call it is an open defect as any other.
    const later = t.write('call-opened', { words: 'Again', symptoms: [] });
    const now = fold(t.entries);
    expect(findsOf(now, now.calls.get(later)!).size).toBe(0);
  });

  it('what lies on the outside of a curb is not taken for proved by water, however low', () => {
    const its = fold(flooded(begun()).entries);
    for (const s of suspectsOf(its))
      if (s.faces.some((f) => f.endsWith(':outer'))) expect(s.says, s.id).not.toBe('water');
    expect(suspectsOf(its).some((s) => s.kind === 'corner' && s.says === 'water')).toBe(true);
  });

  it('a firm’s finds move its kinds', () => {
    const its = state();
    const more = suspectsOf(its, { ...RATES, niche: RATES.niche * 5 });
    for (const s of suspectsOf(its))
      expect(more.find((m) => m.id === s.id)!.prior).toBeCloseTo(s.prior * (s.kind === 'niche' ? 5 : 1), 9);
  });
});

describe('what a firm found', () => {
  const shareOf = (rates: ReturnType<typeof ratesOf>, kind: (typeof SUSPECT_KINDS)[number]) => {
    const usual = SUSPECT_KINDS.map((k) => rates[k] * USUAL_AMOUNT[k]);
    return usual[SUSPECT_KINDS.indexOf(kind)]! / usual.reduce((a, b) => a + b, 0);
  };
  it('nothing yet leaves the starting values; what is unknown or strange moves nothing', () => {
    for (const finds of [{}, { unknown: 12, constructor: 3 }])
      for (const kind of SUSPECT_KINDS) expect(ratesOf(finds)[kind]).toBeCloseTo(RATES[kind], 12);
  });
  it('figures of the firm’s own stand in the place of those that ship, and are moved by finds all the same', () => {
    expect(ratesOf({}, { drain: 9 }).drain).toBeCloseTo(9, 12);
    expect(ratesOf({ drain: 5 }, { drain: 9 }).drain).toBeGreaterThan(9 * 0.9);
    expect(shareOf(ratesOf({ drain: 5 }, { drain: 9 }), 'drain')).toBeGreaterThan(
      shareOf(ratesOf({}, { drain: 9 }), 'drain'),
    );
  });
  it('as many finds of one kind as the start is worth bring it half way to being all', () => {
    const before = shareOf(ratesOf({}), 'curb-end');
    expect(shareOf(ratesOf({ 'curb-end': WORTH_CALLS }), 'curb-end')).toBeCloseTo((before + 1) / 2, 9);
  });
});

describe('what lies where a flood stopped falling', () => {
  it('is what lies at that height first, then what lies below it, and nothing above', () => {
    const list = suspectsOf(state());
    // The floor's edge lies 19 mm over the rim, the curb's top 152.
    const edge = atHeight(list, { heightMm: 20, lowMm: 18, highMm: 21 });
    expect(edge[0]!.suspect.lowMm).toBeCloseTo(19.05, 2);
    expect(edge.every((a) => a.suspect.lowMm <= 23)).toBe(true);
    expect(edge.map((a) => a.share)).toEqual(edge.map((a) => a.share).sort((a, b) => b - a));
    const middle = atHeight(list, { heightMm: 90, lowMm: 88, highMm: 92 });
    // Only what stands upright has a part there.
    expect(middle[0]!.suspect.highMm).toBeGreaterThan(86);
    expect(middle.some((a) => a.suspect.lowMm > 95)).toBe(false);
    expect(atHeight(list, { heightMm: -40, lowMm: -42, highMm: -38 })).toEqual([]);
  });
});

describe('where a call stands', () => {
  it('a stain under the curb’s end names what lies there; the same under the drain, the drain', () => {
    const its = state();
    const ends = curbEnds(its.geometry!.model);
    const left = view([stain(0, 0)]);
    expect(left.ranked.slice(0, 3).every((r) => ends.has(r.suspect.id) || r.suspect.lowMm < 160)).toBe(true);
    expect(probability(left, (s) => s.kind === 'curb-end')).toBeGreaterThan(
      4 * probability(view([stain(762, 457)]), (s) => s.kind === 'curb-end'),
    );
    const drain = view([stain(762, 457)]);
    expect(['drain', 'drain-line']).toContain(drain.ranked[0]!.suspect.kind);
    expect(drain.ranked.reduce((sum, r) => sum + r.probability, 0)).toBeCloseTo(1, 9);
  });

  it('water that comes whoever bathes is a pipe’s; a floor that stays dark for days is a bed’s that does not drain', () => {
    const always = view([stain(...valve(), { when: 'always' })]);
    expect(always.ranked[0]!.suspect.kind).toBe('supply');
    const its = state();
    const liner = { ...its, rules: null };
    const dark: Symptom = { place: { on: 'inside' }, when: 'always', amount: 'damp', signs: ['smell'], darkHours: 48 };
    expect(view([dark], [], liner).ranked[0]!.suspect.kind).toBe('bed');
  });

  it('a test that wets nothing suspected takes little from it; one that shows water raises what it wets', () => {
    const before = view([stain(0, 457)]);
    const dryDrain = view([stain(0, 457)], [tested('1', { kind: 'drain-line' }, 'dry')]);
    const wetWall = view([stain(0, 457)], [tested('1', { kind: 'spray', wall: 'left' }, 'water')]);
    const onLeft = (s: Suspect) => s.faces.includes('wall:left');
    expect(probability(dryDrain, (s) => s.kind === 'drain-line')).toBeLessThan(
      probability(before, (s) => s.kind === 'drain-line'),
    );
    expect(probability(wetWall, onLeft)).toBeGreaterThan(probability(before, onLeft));
    // What was done is not proposed again.
    expect(wetWall.next.some((p) => p.test.kind === 'spray' && p.test.wall === 'left')).toBe(false);
    expect(wetWall.next.some((p) => p.test.kind === 'spray' && p.test.wall === 'back')).toBe(true);
  });

  it('taking a result back gives what stood before it', () => {
    const symptoms = [stain(0, 0)];
    const again = view(symptoms, []);
    view(symptoms, [tested('1', { kind: 'door' }, 'dry')]);
    expect(view(symptoms, [])).toEqual(again);
    // So does one that nobody could read, and one on what the drawing does not have.
    const unclear = view(symptoms, [tested('1', { kind: 'door' }, 'unclear')]);
    expect(unclear.ranked).toEqual(again.ranked);
    // What broke while it was taken out is no sign of a leak, and none of its absence.
    const at = again.ranked[0]!.suspect.id;
    expect(view(symptoms, [tested('1', { kind: 'open', element: at }, 'spoilt')]).ranked).toEqual(again.ranked);
    const gone = view(symptoms, [tested('1', { kind: 'spray', wall: 'gone' }, 'water')]);
    expect(gone.ranked).toEqual(again.ranked);
  });

  it('one stain that is told twice is one, and a test that is made again replaces what it showed', () => {
    expect(view([stain(0, 0), stain(60, 30)]).ranked).toEqual(view([stain(0, 0)]).ranked);
    expect(view([stain(0, 0), stain(1400, 0)]).ranked).not.toEqual(view([stain(0, 0)]).ranked);
    const wet = tested('2', { kind: 'door' }, 'water');
    expect(view([stain(0, 0)], [tested('1', { kind: 'door' }, 'dry'), wet]).ranked).toEqual(
      view([stain(0, 0)], [wet]).ranked,
    );
    expect(view([stain(0, 0)], [wet, { ...wet, id: '3' }]).ranked).toEqual(view([stain(0, 0)], [wet]).ranked);
  });

  it('a stain on a side that was drawn away tells of no place, and is said to lie near nothing', () => {
    const gone: Symptom = {
      place: { on: 'wall', edge: 'gone', alongMm: 10, heightMm: 10 },
      when: 'after-long',
      amount: 'damp',
      signs: [],
    };
    expect(view([gone]).farFrom).toEqual([0]);
  });

  it('says where a stain lies near nothing, and which results do not fit the others', () => {
    expect(view([stain(762, 457), stain(9000, 9000)]).farFrom).toEqual([1]);
    const clash = view(
      [stain(762, 457)],
      [
        tested('a', { kind: 'supply' }, 'water'),
        tested('b', { kind: 'drain-line' }, 'water'),
        tested('c', { kind: 'spray', wall: 'back' }, 'dry'),
      ],
    );
    expect(clash.doesNotFit.length).toBeGreaterThan(0);
    expect(clash.doesNotFit).not.toContain('c');
  });

  it('stops and opens where one is certain', () => {
    const opened = view([stain(...valve(), { when: 'always' })], [tested('1', { kind: 'supply' }, 'water')]);
    expect(opened.open).toMatchObject({ kind: 'supply' });
    expect(view([stain(762, 0)]).open).toBeNull();
  });

  it('each proposal’s outcomes add up to one, and none tells more than there is to know', () => {
    const { next } = view([stain(0, 0)]);
    expect(next.length).toBeGreaterThan(8);
    for (const p of next) {
      expect(p.leaves.reduce((sum, l) => sum + l.chance, 0)).toBeCloseTo(1, 9);
      expect(p.informationBits).toBeLessThanOrEqual(Math.log2(p.leaves.length) + 1e-9);
      expect(p.bitsPerMinute).toBeCloseTo(p.informationBits / (p.minutes + p.damageMinutes), 12);
    }
    // By worth; what spoils tile stands behind all else while nothing is certain enough.
    const tile = (p: (typeof next)[number]) => Number(p.test.kind === 'open');
    expect([...next].sort((a, b) => tile(a) - tile(b) || b.bitsPerMinute - a.bitsPerMinute)).toEqual(next);
  });
});

describe('a flood that was watched till its level settled', () => {
  it('tells more than that it fell: what lies there gains, what lies above it loses, and without an outcome of water it tells nothing', () => {
    const its = state();
    const top = Math.max(...suspectsOf(its).map((s) => s.highMm));
    expect(top).toBeGreaterThan(200);
    const foot = (s: Suspect) => s.id === 'floor-wall|floor|wall:back';
    const footMm = suspectsOf(its).find(foot)!.lowMm;
    const flood = { kind: 'flood' as const, levelMm: footMm + 60 };
    const fell = view([stain(300, 300)], [tested('f', flood, 'water')]);
    const settled = { lowMm: footMm - 1, highMm: footMm + 1, heldBackMm: 5 };
    const watched = view([stain(300, 300)], [{ ...tested('f', flood, 'water'), settled }]);
    expect(probability(watched, foot)).toBeGreaterThan(probability(fell, foot));
    // The drain lies below, farther than so small a hole holds water back.
    const drain = (s: Suspect) => s.kind === 'drain';
    expect(probability(watched, drain)).toBeLessThan(probability(fell, drain));
    // An upright seam of which a part stood in the water is suspected before the drain, however often drains leak.
    const level = footMm + 60;
    const upright = (s: Suspect) => s.id.startsWith('curb-wall|') && s.lowMm < level - 15 && s.highMm > level;
    const at = { ...tested('f', { kind: 'flood', levelMm: level }, 'water') };
    const height = view(
      [stain(300, 300)],
      [{ ...at, settled: { lowMm: level - 16, highMm: level - 14, heldBackMm: 5 } }],
    );
    expect(height.ranked.some((r) => upright(r.suspect))).toBe(true);
    expect(probability(height, upright)).toBeGreaterThan(probability(height, drain));
    const dry = view([stain(300, 300)], [tested('f', flood, 'dry')]);
    const odd = view([stain(300, 300)], [{ ...tested('f', flood, 'dry'), settled }]);
    expect(probability(odd, foot)).toBeCloseTo(probability(dry, foot), 12);
  });
});
