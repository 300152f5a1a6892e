import { VARIANTS } from '@careful-seam/core/rules/checks/checkBase';
import { combineMethods, drawnVariants } from '@careful-seam/core/rules/combineMethods';
import { NOT_KNOWN } from '@careful-seam/core/rules/notKnown';
import { showerModel } from '@careful-seam/core/shower/geometry/showerModel';
import { describe, expect, it } from 'vitest';
import { demoMethods, geometryOf, SKETCHES } from './demoMethods';
import { demoRuleBook } from './demoRuleBook';

const IN = 25.4;
const inches = (mm: number) => Math.round((mm / IN) * 100) / 100;

interface Counted {
  count: number;
  inches: number;
}
/** The list of seams of each sketch as counted and added up by hand; r is the rise of the floor's edge in inches. */
const BY_HAND: Record<string, (r: number) => Record<string, Counted>> = {
  // Alcove 48 x 36, walls 96, curb 6 x 4 1/2, a niche 12 x 14 x 3 1/2 in the back.
  'Loft east': (r) => ({
    'floor-wall': { count: 3, inches: 48 + 36 + 36 },
    'wall-wall-inside': { count: 2, inches: 2 * 96 },
    'curb-floor': { count: 1, inches: 48 },
    'curb-top-edge': { count: 2, inches: 2 * 48 },
    'curb-outside-floor': { count: 1, inches: 48 },
    'curb-wall': { count: 6, inches: 2 * (6 - r + 4.5 + 6) },
    'top-termination': { count: 3, inches: 48 + 2 * 40.5 },
    'side-termination': { count: 2, inches: 2 * (96 + r - 6) },
    'niche-mouth': { count: 4, inches: 2 * 12 + 2 * 14 },
    'niche-edge': { count: 8, inches: 2 * 12 + 2 * 14 + 4 * 3.5 },
  }),
  // Corner 42 x 42, walls 84 on two sides, two curbs that meet on a mitre.
  Cellar: (r) => ({
    'floor-wall': { count: 2, inches: 84 },
    'wall-wall-inside': { count: 1, inches: 84 },
    'curb-floor': { count: 2, inches: 84 },
    'curb-curb': { count: 3, inches: 6 - r + 4.5 * Math.SQRT2 + 6 },
    'curb-top-edge': { count: 4, inches: 2 * 42 + 2 * 46.5 },
    'curb-outside-floor': { count: 2, inches: 2 * 46.5 },
    'curb-wall': { count: 6, inches: 2 * (6 - r + 4.5 + 6) },
    'top-termination': { count: 2, inches: 2 * 46.5 },
    'side-termination': { count: 2, inches: 2 * (84 + r - 6) },
  }),
  'Hall bath': (r) => ({
    'floor-wall': { count: 3, inches: 60 + 32 + 32 },
    'wall-wall-inside': { count: 2, inches: 2 * 96 },
    'curb-floor': { count: 1, inches: 60 },
    'curb-top-edge': { count: 2, inches: 120 },
    'curb-outside-floor': { count: 1, inches: 60 },
    'curb-wall': { count: 6, inches: 2 * (6 - r + 4.5 + 6) },
    'top-termination': { count: 3, inches: 60 + 2 * 36.5 },
    'side-termination': { count: 2, inches: 2 * (96 + r - 6) },
  }),
  // Open to the front over 72 in, 36 in of floor outside.
  'Crew wet room': () => ({
    'floor-wall': { count: 3, inches: 72 + 48 + 48 },
    'wall-wall-inside': { count: 2, inches: 2 * 96 },
    'open-edge': { count: 1, inches: 72 },
    'outside-floor-edge': { count: 1, inches: 72 + 36 + 36 },
    'top-termination': { count: 3, inches: 72 + 48 + 48 },
    'side-termination': { count: 2, inches: 2 * 96 },
  }),
  // Lower third of an alcove 60 x 30: new walls 32 high, old tile stays above.
  'Guest bath': (r) => ({
    'floor-wall': { count: 3, inches: 60 + 30 + 30 },
    'wall-wall-inside': { count: 2, inches: 2 * 32 },
    'curb-floor': { count: 1, inches: 60 },
    'curb-top-edge': { count: 2, inches: 120 },
    'curb-outside-floor': { count: 1, inches: 60 },
    'curb-wall': { count: 6, inches: 2 * (6 - r + 4.5 + 6) },
    transition: { count: 3, inches: 60 + 2 * 34.5 },
    'side-termination': { count: 2, inches: 2 * (32 + r - 6) },
  }),
  // A half wall 20 long, 42 high, 4 1/2 thick from the left wall, then a curb of 40 in one line to the right wall.
  'Old house': (r) => ({
    'floor-wall': { count: 4, inches: 20 + 36 + 60 + 36 },
    'wall-wall-inside': { count: 3, inches: 2 * 96 + 42 },
    'curb-floor': { count: 1, inches: 40 },
    'curb-top-edge': { count: 2, inches: 80 },
    'curb-outside-floor': { count: 1, inches: 40 },
    // Against the right wall: inside, top, outside; against the half wall's end: on top only, and up its two sides.
    'curb-wall': { count: 6, inches: 6 - r + 4.5 + 6 + (6 - r) + 4.5 + 6 },
    'cap-edge': { count: 3, inches: 20 + 4.5 + (42 + r - 6) },
    'cap-wall': { count: 1, inches: 4.5 },
    'top-termination': { count: 4, inches: 40.5 + 60 + 40.5 + 20 },
    'side-termination': { count: 3, inches: 96 + r - 6 + (96 - 42) + (42 + r - 6) },
  }),
  // Alcove 54 x 34, a floating bench 30 x 12, 3 thick, on the left wall against the back wall.
  'Annex two makers': (r) => ({
    'floor-wall': { count: 3, inches: 54 + 34 + 34 },
    'wall-wall-inside': { count: 3, inches: 96 + (96 - 3) },
    'curb-floor': { count: 1, inches: 54 },
    'curb-top-edge': { count: 2, inches: 108 },
    'curb-outside-floor': { count: 1, inches: 54 },
    'curb-wall': { count: 6, inches: 2 * (6 - r + 4.5 + 6) },
    'top-termination': { count: 3, inches: 54 + 2 * 38.5 },
    'side-termination': { count: 2, inches: 2 * (96 + r - 6) },
    // Top and underside against left and back wall; front against the back wall, end against the left one.
    'bench-wall': { count: 6, inches: 2 * (30 + 12) + 2 * 3 },
    'bench-edge': { count: 5, inches: 2 * (30 + 12) + 3 },
  }),
  // Neo-angle 54 x 54 with panels of 27: half wall, curb on the slant, curb; walls 90 to a flat ceiling.
  'Steam room': (r) => {
    const slant = 27 * Math.SQRT2;
    const mitre = 4.5 * Math.tan(Math.PI / 8);
    const cut = 4.5 / Math.cos(Math.PI / 8);
    return {
      'floor-wall': { count: 3, inches: 54 - 24 + (54 - 14) + 27 },
      'wall-wall-inside': { count: 2, inches: 90 - 18 + 42 },
      'curb-floor': { count: 2, inches: slant + 27 },
      'curb-curb': { count: 3, inches: 6 - r + cut + 6 },
      'curb-top-edge': { count: 4, inches: slant + 27 + (slant + 2 * mitre) + (27 + mitre) },
      'curb-outside-floor': { count: 2, inches: slant + 2 * mitre + (27 + mitre) },
      // Against the back wall, and against the half wall on the mitre: inside, top, outside each.
      'curb-wall': { count: 6, inches: 6 - r + 4.5 + 6 + (6 - r) + cut + 6 },
      'cap-edge': { count: 3, inches: 27 + cut + (42 + r - 6) },
      'cap-wall': { count: 1, inches: 4.5 },
      'top-termination': { count: 1, inches: 27 + mitre },
      'side-termination': { count: 3, inches: 90 + r - 6 + (90 - 42) + (42 + r - 6) },
      'wall-ceiling': { count: 2, inches: 2 * 58.5 },
      'ceiling-edge': { count: 1, inches: slant + 2 * mitre + 2 * (27 + mitre) },
      'niche-mouth': { count: 12, inches: 2 * (2 * 12 + 2 * 14) },
      'niche-edge': { count: 18, inches: 2 * 12 + 2 * 14 + 4 * 3.5 + (2 * 12 + 2 * (14 - 0.75) + 4 * 3.5) },
      'niche-shelf': { count: 6, inches: 2 * (12 + 3.5 + 3.5) },
      'niche-shelf-edge': { count: 2, inches: 24 },
      'bench-floor': { count: 2, inches: 24 + 14 },
      'bench-edge': { count: 3, inches: 24 + 14 + 18 },
      'bench-wall': { count: 4, inches: 24 + 14 + 18 + 18 },
    };
  },
};

describe('the demo’s showers', () => {
  it('hold one for each method, each way of building, and one of two methods', () => {
    const book = demoRuleBook();
    const built = SKETCHES.map((s) => ({
      s,
      variants: [...drawnVariants(geometryOf(s)), ...(s.rules.variants ?? [])],
    }));
    const used = new Set(SKETCHES.flatMap((s) => [s.rules.method, ...Object.values(s.rules.parts ?? {})]));
    // Of a shower that others built nobody knows how: it is drawn where it is called to.
    expect([...used].sort()).toEqual(
      book.methods
        .map((m) => m.key)
        .filter((key) => key !== NOT_KNOWN)
        .sort(),
    );
    expect([...new Set(built.flatMap((b) => b.variants))].sort()).toEqual([...VARIANTS].sort());
    expect(SKETCHES.some((s) => s.rules.parts)).toBe(true);
    for (const { s, variants } of built) expect(combineMethods(book, s.rules, variants)).not.toBeNull();
  });
  it.each(Object.keys(BY_HAND))('%s has the seams that a person counted on its sketch', (name) => {
    const sketch = SKETCHES.find((s) => s.name === name)!;
    const geometry = geometryOf(sketch);
    const model = showerModel(geometry);
    if (!model.ok) throw new Error(`${model.problem.field}: ${model.problem.code}`);
    const hand = BY_HAND[name]!((geometry.perimeterRiseMm ?? 0) / IN);
    for (const [kind, counted] of Object.entries(hand)) {
      const seams = model.value.seams.filter((s) => s.kind === kind);
      const told = { count: seams.length, inches: inches(seams.reduce((sum, s) => sum + s.lengthMm, 0)) };
      expect({ kind, ...told }).toEqual({ kind, count: counted.count, inches: Math.round(counted.inches * 100) / 100 });
    }
    expect(Object.keys(model.value.totals.seamMmByKind).sort()).toEqual(Object.keys(hand).sort());
  });
  it('are written and judged without a fault', () => {
    const book = demoRuleBook();
    const writers = demoMethods(Date.parse('2026-11-23T15:00:00Z'), () => book);
    for (const w of writers) {
      const state = w.state();
      expect(state.orphans).toEqual([]);
      expect(state.requirements.length).toBeGreaterThan(30);
    }
    const base = writers.map((w) => w.state().stages.get('base')?.word);
    expect(base.filter((word) => word === 'released').length).toBeGreaterThan(1);
    expect(base).not.toContain('contested');
  });
});
