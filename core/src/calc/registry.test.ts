import { describe, expect, it } from 'vitest';
import { calculationVersions, versionOf } from '../outcome/versions';
import { CALCULATIONS, calculationSchema, runCalculation } from './registry';

const FLOOR = [
  [0, 0],
  [1524, 0],
  [1524, 914.4],
  [0, 914.4],
].map(([xMm, yMm]) => ({ xMm, yMm }));
const CLIMATE = { waterC: 20, airC: 22, relativeHumidity: 0.5, airSpeedMs: 0 };
const EXAMPLES: Record<string, unknown> = {
  'length-parse': { text: '2 1/4' },
  'shower-model': {
    footprint: FLOOR,
    edges: [
      { kind: 'curb', heightMm: 150, widthMm: 110 },
      { kind: 'wall', heightMm: 2400 },
      { kind: 'open' },
      { kind: 'wall', heightMm: 2400 },
    ],
    drain: { kind: 'point', xMm: 700, yMm: 400 },
  },
  'fall-design': {
    footprint: FLOOR,
    drain: { xMm: 762, yMm: 457.2 },
    minFall: 0.0208333,
    maxFall: 0.0416667,
    reserveMm: 3,
  },
  flatness: { profile: { xMm: [0, 500, 1000], zMm: [0, 1, 0] }, straightedgeMm: 600, limitMm: 1.6 },
  'fall-survey': {
    footprint: FLOOR,
    drain: { xMm: 762, yMm: 457.2 },
    drainRimMm: 55,
    drainZMm: 0,
    shots: FLOOR.map((p) => ({ ...p, zMm: 20 })),
    uncertaintyMm: 0.8,
    minFall: 0.0208333,
    maxFall: 0.0416667,
    seed: 1,
    runs: 20,
  },
  ponding: { grid: { spacingMm: 10, zMm: [[0, 3, 1]] }, outlets: [{ row: 0, column: 0 }], limitMm: 1.6 },
  'mortar-bed': { footprint: FLOOR, drain: { xMm: 762, yMm: 457.2 }, thicknessAtDrainMm: 12.7, riseMm: 18.5 },
  'mortar-mix': {
    volumeL: 35,
    sandParts: 4,
    shrinkShare: 0.2,
    bulkKgPerL: 1.6,
    bagKg: 27,
    waterLPerKg: 0.1,
    spareShare: 0.1,
  },
  'tray-cut': {
    opening: { widthMm: 1500, depthMm: 900 },
    drain: { xMm: 750, yMm: 450 },
    tray: { widthMm: 1524, depthMm: 914, xMm: 762, yMm: 457 },
    flatRimMm: 19,
    gapMm: 3,
    fall: 0.02,
  },
  'flange-level': { leftOverRightMm: 1, frontOverBackMm: 0, overMm: 100, diameterMm: 150, limitMm: 1 },
  'shower-plan': { stages: [{ key: 'bed', workHours: 4, waitHours: 12, lookMinutes: 20 }], calendar: {}, startMs: 0 },
  'least-days': { stages: [{ key: 'bed', workHours: 4, waitHours: 12, lookMinutes: 20 }], calendar: {}, planDays: 1 },
  'day-route': {
    stops: [{ id: 'a', minutes: 20, windows: [[0, 3_600_000]] }],
    travelMinutes: [
      [0, 10],
      [10, 0],
    ],
    startMs: 0,
    weights: { latePerStop: 100, idlePerHour: 10, drivePerMinute: 1 },
  },
  'trace-rank': { causes: [{ name: 'drain', prior: 1, given: { stain: 0.8 } }], seen: { stain: true } },
  'trace-next': {
    causes: [
      { name: 'drain', prior: 1, given: {} },
      { name: 'wall', prior: 1, given: {} },
    ],
    seen: {},
    tests: [{ name: 'flood', minutes: 60, given: { drain: 0.9, wall: 0.1 } }],
  },
  'trace-wets': {
    model: {
      footprint: FLOOR,
      edges: [
        { kind: 'curb', heightMm: 150, widthMm: 110 },
        { kind: 'wall', heightMm: 2400 },
        { kind: 'open' },
        { kind: 'wall', heightMm: 2400 },
      ],
      drain: { kind: 'point', xMm: 700, yMm: 400 },
    },
    test: { kind: 'spray', wall: 1 },
  },
  'water-paths': {
    spaces: ['shower', 'timber'],
    barriers: [{ name: 'lap', between: ['shower', 'timber'], intact: true }],
    from: 'shower',
    to: 'timber',
  },
  'pipe-cut': { ridgeToFlangeMm: 80, socketMm: 20, reserveMm: 3 },
  'stall-fit': { framesMm: [1004, 1006], panMm: 1000, leastMm: 1.6, mostMm: 3.2 },
  'stud-shims': { behindMm: [0, 3, 1], limitMm: 6.35 },
  'drain-centre': { widthMm: 1000, depthMm: 1000, curbMm: 100, curbWithin: true, boardMm: 10 },
  'layer-stack': {
    layers: [
      { kind: 'sheet', thicknessUm: 200, rect: { xMm: 0, yMm: 0, widthMm: 100, heightMm: 100 } },
      { kind: 'mortar', thicknessUm: 400, rect: { xMm: 0, yMm: 0, widthMm: 50, heightMm: 50 } },
    ],
  },
  'band-plan': {
    bandWidthMm: 127,
    lossMm: 3,
    offCentreMm: 0,
    otherEdgeMm: [0, 0],
    cornerLegMm: 54,
    stopShortMm: 3,
    limitMm: 50.8,
  },
  'sampling-plan': { mostShare: 0.05, confidence: 0.95 },
  'film-from-volume': { areaM2: 8, volumeL: 3, solids: 0.55 },
  'film-needed': { areaM2: 8, dryUm: 560, solids: 0.55, coats: 2 },
  'film-spots': { spots: [[500, 560, 600]], minUm: 500, maxUm: 1000 },
  'primer-mix': { areaM2: 8, coverageM2PerL: 10, waterParts: 4 },
  'cure-age': { log: [{ hours: 24, temperatureC: 10 }], model: 'arrhenius', referenceC: 23 },
  'cure-time': { needHours: 24, temperatureC: 10, model: 'arrhenius', referenceC: 23 },
  'drying-time': { labelHours: 12, temperatureC: 15, relativeHumidity: 0.7, wetUm: 600, referenceWetUm: 500 },
  'liner-width': { openingWidthMm: 1200, openingDepthMm: 900, turnUpMm: 152, overCurbMm: 400 },
  'board-cut': {
    topMm: 1524,
    bottomMm: 1520,
    heightMm: 1500,
    boardMm: 12.7,
    neighbours: 1,
    grooveMm: 12,
    headroomMm: 0,
  },
  'cut-rolls': { rollMm: 5000, piecesMm: [3000, 2500, 1500] },
  'curb-cut': { distancesMm: [1524, 1530], gap: 'each-end' },
  'niche-layout': {
    tileHeightMm: 300,
    tileWidthMm: 600,
    jointMm: 3,
    levelJointMm: 0,
    uprightJointMm: 0,
    sillMm: 1200,
    heightMm: 350,
    widthMm: 300,
    alongMm: 450,
    studsAtMm: [406.4, 812.8],
    studMm: 38,
  },
  'rate-interval': { count: 3, exposure: 120, confidence: 0.95 },
  'share-interval': { count: 3, of: 40, confidence: 0.95 },
  'two-rates': { a: { count: 9, exposure: 100 }, b: { count: 4, exposure: 150 }, confidence: 0.95 },
  'before-after': { before: { count: 19, exposure: 100 }, after: { count: 4, exposure: 150 }, confidence: 0.95 },
  'false-discovery': { p: [0.01, 0.2, 0.04], level: 0.05 },
  funnel: {
    groups: [
      { name: 'a', count: 3, exposure: 100 },
      { name: 'b', count: 9, exposure: 100 },
    ],
  },
  'u-chart': {
    months: [
      { count: 3, exposure: 100 },
      { count: 0, exposure: 0 },
      { count: 9, exposure: 120 },
    ],
  },
  pareto: {
    items: [
      { name: 'laps', count: 4 },
      { name: 'niche', count: 9 },
    ],
    by: 'count',
  },
  'escape-matrix': { stages: ['base', 'tile'], defects: [{ made: 'base', found: 'tile', count: 2 }] },
  'time-to-fix': {
    spells: [
      { days: 2, closed: true },
      { days: 9, closed: false },
    ],
  },
  kappa: {
    table: [
      [20, 5],
      [10, 15],
    ],
  },
  'where-to-look': {
    cells: [{ crew: 'a', kind: 'niche', count: 3, exposure: 100, lengthMm: 4000 }],
    readings: 10,
  },
  'bench-span': { spanMm: 457.2, layers: 1 },
  'board-layout': {
    wallLengthMm: 1524,
    wallHeightMm: 2438.4,
    sheetLongMm: 1524,
    sheetShortMm: 914.4,
    run: 'level',
    offsetMm: 0,
  },
  'lap-leg': { bandWidthMm: 127, lossMm: 3, offCentreMm: 0 },
  'lap-verdict': { lengthMm: 900, limitMm: 50.8, readings: [{ atMm: 100, lapMm: 51 }], speaksForMm: 150 },
  'fastener-grid': { widthMm: 914.4, heightMm: 2438.4, studsAtMm: [0, 400], firstRowMm: 304.8, spacingMm: 304.8 },
  air: { temperatureC: 25, relativeHumidity: 0.5 },
  evaporation: { ...CLIMATE, activity: 1 },
  'flood-volume': { footprint: FLOOR, drain: { xMm: 762, yMm: 457.2 }, perimeterRiseMm: 18.5, depthAtDrainMm: 76.2 },
  'flood-verdict': {
    method: 'marks',
    readings: [
      { atHours: 0, levelMm: 76.2 },
      { atHours: 24, levelMm: 73 },
    ],
    resolutionMm: 1.5875,
    climate: CLIMATE,
    smallestLeakMmPerDay: null,
    plannedHours: 24,
    moistureFound: false,
  },
  'flood-plan': {
    method: 'logger',
    plannedHours: 24,
    resolutionMm: 0.1,
    panResolutionMm: 0.1,
    climate: null,
    smallestLeakMmPerDay: 1,
  },
  'leak-height': {
    readings: Array.from({ length: 25 }, (_, k) => ({
      atHours: k,
      levelMm: 60 + 16 * Math.max(0, 1 - k / 10) ** 2 - 0.05 * k,
    })),
    resolutionMm: 0.1,
    evaporationMmPerHour: 0.05,
  },
  'fill-time': { volumeL: 89, litresPerMinute: 9.5 },
  'leak-size': { lossMmPerHour: 0.1, wettedM2: 1.4, headMm: 60 },
};

describe('the list of calculations', () => {
  it.each(CALCULATIONS.map((c) => [c.name, c] as const))('%s answers in the shape of its schema', (name, c) => {
    const outcome = runCalculation(name, EXAMPLES[name]);
    expect(outcome.ok).toBe(true);
    if (outcome.ok) expect(c.output.safeParse(outcome.value).error).toBeUndefined();
    expect(calculationSchema(c)).toMatchObject({ input: { type: 'object' }, output: { type: 'object' } });
    expect(calculationVersions()[name]).toBe(versionOf(name));
  });
  it.each(CALCULATIONS.map((c) => c.name))('%s names the field of bad input, never a number', (name) => {
    for (const bad of [null, {}, { text: 5 }, { lengthMm: Number.NaN }]) {
      const outcome = runCalculation(name, bad);
      // What no single field is at fault for has a code of its own.
      const code = name === 'ponding' ? /^(input-invalid|ponding-without-floor)$/ : /^input-invalid$/;
      expect(outcome).toMatchObject({ ok: false, problem: { code: expect.stringMatching(code) } });
    }
  });
  it('says so when there is no such calculation', () => {
    expect(runCalculation('no-such', {})).toMatchObject({ problem: { field: 'name' } });
  });
});
