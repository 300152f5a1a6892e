// npm run calibrate, a part: seeded showers with one hidden hole, traced in the proposed order, in the fixed order of the trade, and at
// random; whether stated probabilities come true; and what a prior does that is wrong by a factor of five.

import { type SiteTest, type Symptom, WHENS } from '@careful-seam/core/log/callBodies';
import type { ShowerGeometry } from '@careful-seam/core/shower/geometry/showerGeometry';
import { type ShowerModel, showerModel } from '@careful-seam/core/shower/geometry/showerModel';
import {
  DAMAGE_MINUTES,
  minutesOf,
  outcomesOf,
  siteTests,
  testGiven,
  testKey,
} from '@careful-seam/core/trace/siteTests';
import {
  ANYWHERE,
  LEDGER_FACTORS,
  LEDGER_WORDS,
  SPREAD_MM,
  SUSPECT_KINDS,
  WHEN_GIVEN,
} from '@careful-seam/core/trace/startingValues';
import { type Suspect, suspectsOfModel } from '@careful-seam/core/trace/suspects';
import { type Tested, traceCase } from '@careful-seam/core/trace/traceCase';
import { numbers } from '@careful-seam/core/units/randomNumbers';
import { writeSection } from './performanceDoc';

const SHOWERS = Number(process.env.TRACE_SHOWERS ?? 1000);
/** More tests than these nobody makes. */
const TESTS_AT_MOST = 20;

const wall = (id: string) => ({
  kind: 'wall' as const,
  id,
  heightMm: 2400,
  boardJoints: [{ id: `${id}-joint`, run: 'level' as const, atMm: 1200 }],
});
const curb = (id: string) => ({ kind: 'curb' as const, id, heightMm: 110, widthMm: 110 });
const rectangle = (w: number, d: number) => [
  { xMm: 0, yMm: 0 },
  { xMm: w, yMm: 0 },
  { xMm: w, yMm: d },
  { xMm: 0, yMm: d },
];
const valve = (edge: number) => ({
  id: 'valve',
  kind: 'valve' as const,
  edge,
  alongMm: 450,
  heightMm: 1100,
  diameterMm: 100,
});
const arm = (edge: number) => ({
  id: 'arm',
  kind: 'shower-arm' as const,
  edge,
  alongMm: 450,
  heightMm: 2000,
  diameterMm: 25,
});

/** Kinds of showers as the demo has them: an alcove, a corner, a niche and a bench, one without a curb. */
const KINDS: ShowerGeometry[] = [
  {
    footprint: rectangle(1524, 914),
    edges: [curb('front'), wall('right'), wall('back'), wall('left')],
    drain: { kind: 'point', id: 'd', xMm: 762, yMm: 457 },
    perimeterRiseMm: 19,
    penetrations: [valve(3), arm(3)],
  },
  {
    footprint: rectangle(1000, 1000),
    edges: [curb('front'), curb('right'), wall('back'), wall('left')],
    drain: { kind: 'point', id: 'd', xMm: 500, yMm: 500 },
    perimeterRiseMm: 15,
    penetrations: [valve(2), arm(2)],
  },
  {
    footprint: rectangle(1800, 1000),
    edges: [curb('front'), wall('right'), wall('back'), wall('left')],
    drain: { kind: 'point', id: 'd', xMm: 900, yMm: 500 },
    perimeterRiseMm: 20,
    penetrations: [valve(1), arm(1)],
    niches: [{ id: 'n', edge: 2, alongMm: 700, sillMm: 1100, widthMm: 400, heightMm: 400, depthMm: 90 }],
    benches: [{ id: 'b', kind: 'corner', corner: 3, topMm: 450, legLeftMm: 400, legRightMm: 400 }],
  },
  {
    footprint: rectangle(1500, 1200),
    edges: [{ kind: 'open', id: 'front' }, wall('right'), wall('back'), wall('left')],
    drain: { kind: 'point', id: 'd', xMm: 750, yMm: 900 },
    perimeterRiseMm: 22,
    penetrations: [valve(3), arm(3)],
    niches: [{ id: 'n', edge: 2, alongMm: 500, sillMm: 1100, widthMm: 300, heightMm: 500, depthMm: 90 }],
  },
];
const MODELS = KINDS.map((g): ShowerModel => {
  const model = showerModel(g);
  if (!model.ok) throw new Error(JSON.stringify(model.problem));
  return model.value;
});

type Policy = 'proposed' | 'fixed order' | 'random';
const POLICIES: readonly Policy[] = ['proposed', 'fixed order', 'random'];

/** A shower that leaks as it is drawn: the same for each order. */
function leaking(seed: number, wrong: 1 | 5) {
  const { uniform, normal } = numbers(seed);
  const pick = <T>(list: readonly T[], weights: readonly number[]): T => {
    let at = uniform() * weights.reduce((a, b) => a + b, 0);
    const k = weights.findIndex((w) => {
      at -= w;
      return at < 0;
    });
    return list[Math.max(0, k)]!;
  };
  const model = MODELS[seed % MODELS.length]!;
  // What the ledger says of each is drawn; the hole then by what is believed, or by rates that are five times more or less.
  const believed = suspectsOfModel(model).map((s): Suspect => {
    const says = pick(LEDGER_WORDS, [2, 3, 3, 1, 2, 0.5, 0.2]);
    return { ...s, says, prior: s.prior * LEDGER_FACTORS[says] };
  });
  const off = new Map(SUSPECT_KINDS.map((k) => [k, wrong === 1 ? 1 : uniform() < 0.5 ? wrong : 1 / wrong]));
  const truth = pick(
    believed,
    believed.map((s) => s.prior * off.get(s.kind)!),
  );
  const at = pick(
    truth.points,
    truth.points.map(() => 1),
  );
  const [xs, ys] = [model.geometry.footprint.map((p) => p.xMm), model.geometry.footprint.map((p) => p.yMm)];
  const anywhere = (list: number[]) =>
    Math.min(...list) - 600 + uniform() * (Math.max(...list) - Math.min(...list) + 1200);
  const stray = uniform() < ANYWHERE;
  const symptom: Symptom = {
    place: {
      on: 'ceiling',
      xMm: stray ? anywhere(xs) : at[0] + SPREAD_MM * normal(),
      yMm: stray ? anywhere(ys) : at[1] + SPREAD_MM * normal(),
    },
    when: pick(
      WHENS,
      WHENS.map((w) => WHEN_GIVEN[truth.behaviour][w]),
    ),
    amount: 'drops',
    signs: [],
  };
  // What each test would show is drawn once: the same test shows the same, whoever asks first.
  const shown = new Map<string, string>();
  const show = (test: SiteTest): string => {
    const key = testKey(test);
    const k = believed.indexOf(truth);
    const rows = testGiven(model, believed, test);
    const own = numbers(seed * 977 + [...key].reduce((h, c) => (h * 31 + c.charCodeAt(0)) % 1_000_003, 7));
    let left = own.uniform();
    const outcomes = outcomesOf(model, test);
    const outcome = outcomes.find((_, r) => {
      left -= rows[r]![k]!;
      return left < 0;
    });
    shown.set(key, outcome ?? outcomes.at(-1)!);
    return shown.get(key)!;
  };
  return { model, suspects: believed, truth, symptoms: [symptom], show, uniform };
}

/** Pipes first, then the drain, the flood step by step, walls, the door, the meter; then tile is opened at the likeliest. */
const FIXED = ['supply', 'drain-line', 'flood', 'spray', 'door', 'map', 'dam', 'trim', 'open'];

interface Traced {
  tests: number;
  minutes: number;
  /** Minutes of making good what was opened. */
  damage: number;
  found: boolean;
}

function trace(seed: number, policy: Policy, wrong: 1 | 5): Traced {
  const { model, suspects, truth, symptoms, show } = leaking(seed, wrong);
  const { uniform } = numbers(seed + 500_000);
  const tested: Tested[] = [];
  let [minutes, damage] = [0, 0];
  for (;;) {
    const view = traceCase(model, { suspects, symptoms, tested })!;
    const place = view.ranked.findIndex((r) => r.suspect === truth);
    if (place < 3) return { tests: tested.length, minutes, damage, found: true };
    if (tested.length >= TESTS_AT_MOST || view.next.length === 0)
      return { tests: tested.length, minutes, damage, found: false };
    const left = view.next.map((p) => p.test);
    const done = new Set(tested.map((t) => testKey(t.test)));
    const inOrder = siteTests(model, [view.ranked[0]!.suspect]).filter((t) => !done.has(testKey(t)));
    const test =
      policy === 'proposed'
        ? left[0]!
        : policy === 'random'
          ? left[Math.floor(uniform() * left.length)]!
          : ([...inOrder].sort((a, b) => FIXED.indexOf(a.kind) - FIXED.indexOf(b.kind))[0] ?? left[0]!);
    minutes += minutesOf(
      test,
      tested.map((t) => t.test),
    );
    damage += DAMAGE_MINUTES[test.kind];
    tested.push({ id: String(tested.length), test, outcome: show(test) });
  }
}

const at = (list: readonly number[], share: number) =>
  [...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(list.length * share))]!;
const rows: string[] = [];
const sums = new Map<string, number>();
for (const wrong of [1, 5] as const)
  for (const policy of POLICIES) {
    const all = Array.from({ length: SHOWERS }, (_, seed) => trace(seed + 1, policy, wrong));
    const minutes = all.map((a) => a.minutes);
    const tests = all.map((a) => a.tests);
    const mean = minutes.reduce((a, b) => a + b, 0) / SHOWERS;
    const damage = all.reduce((sum, a) => sum + a.damage, 0) / SHOWERS;
    const asked = all.filter((a) => a.tests > 0);
    const ofAsked = asked.reduce((sum, a) => sum + a.minutes, 0) / (asked.length || 1);
    sums.set(`${wrong} ${policy}`, mean);
    sums.set(`${wrong} ${policy} with making good`, mean + damage);
    rows.push(
      `| ${wrong === 1 ? 'right' : 'each kind wrong by a factor of 5, up or down'} | ${policy} | ${at(tests, 0.5)} / ${at(tests, 0.9)} | ${at(minutes, 0.5)} / ${at(minutes, 0.9)} | ${mean.toFixed(0)} | ${ofAsked.toFixed(0)} (${asked.length}) | ${damage.toFixed(0)} | ${all.filter((a) => !a.found).length} |`,
    );
    console.log(rows.at(-1));
  }
/** Probabilities stated after each of the first proposed tests, whether the hole was found by then or not: what stops is not asked more. */
const STEPS = 6;
const stated = Array.from({ length: SHOWERS }, (_, k) => {
  const { model, suspects, truth, symptoms, show } = leaking(k + 1, 1);
  const tested: Tested[] = [];
  const said: { probability: number; hit: boolean }[] = [];
  for (let step = 0; step <= STEPS; step += 1) {
    const view = traceCase(model, { suspects, symptoms, tested })!;
    for (const r of view.ranked) said.push({ probability: r.probability, hit: r.suspect === truth });
    const [next] = view.next;
    if (next) tested.push({ id: String(step), test: next.test, outcome: show(next.test) });
  }
  return said;
}).flat();
const deciles = Array.from({ length: 10 }, (_, k) => {
  const some = stated.filter((s) => s.probability >= k / 10 && (k === 9 || s.probability < (k + 1) / 10));
  const share = (sum: number) => (some.length === 0 ? '–' : `${((sum / some.length) * 100).toFixed(1)} %`);
  return `| ${k * 10} to ${(k + 1) * 10} % | ${some.length} | ${share(some.reduce((sum, s) => sum + s.probability, 0))} | ${share(some.filter((s) => s.hit).length)} |`;
});
const less = 1 - sums.get('1 proposed')! / sums.get('1 fixed order')!;
const whole = 1 - sums.get('1 proposed with making good')! / sums.get('1 fixed order with making good')!;
const lessWrong = 1 - sums.get('5 proposed')! / sums.get('5 fixed order')!;
const words = `${SHOWERS} invented showers of four kinds (\`bench/calibrateTrace.bench.ts\`), each with one hidden hole that is drawn by rates, lengths and a random ledger; a stain and when it comes are drawn from where the hole is, tests show what the hole lets them show. Counted until the true element is among the first three; minutes are those of the tests; making good what was opened stands beside. **The world is drawn from the same invented probabilities that tracing believes**, so this says how good the order is, and not how true the probabilities are.

| prior | order | tests, median / 90 % | minutes, median / 90 % | minutes, mean | mean where a test was needed (showers) | making good, mean | not found in ${TESTS_AT_MOST} tests |
|---|---|---|---|---|---|---|---|
${rows.join('\n')}

The proposed order takes ${(less * 100).toFixed(0)} % fewer minutes than the fixed one, ${(lessWrong * 100).toFixed(0)} % fewer where the prior is wrong. With making good it is ${(whole * 100).toFixed(0)} % fewer: the proposed order opens more, since it comes to opening sooner.

Probabilities stated of every suspect after each of the first ${STEPS} proposed tests, and how often they were it:

| stated | how many | stated on the average | were it |
|---|---|---|---|
${deciles.join('\n')}`;
console.log(words);
if (SHOWERS >= 1000) writeSection('Finding a leak', `Made by \`npm run calibrate\`. ${words}`);
process.exitCode = less >= 0.3 ? 0 : 1;
