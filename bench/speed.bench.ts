import { randomUUID } from 'node:crypto';
import { cureReady } from '@careful-seam/core/cure/cureClock';
import { sha256Hex } from '@careful-seam/core/log/chain';
import type { Entry } from '@careful-seam/core/log/entry';
import { type ChainEnd, writeEntry } from '@careful-seam/core/log/writeEntry';
import { foldShower } from '@careful-seam/core/proof/fold/foldShower';
import { lineWork } from '@careful-seam/core/proof/shown/lineWork';
import { buildLedger } from '@careful-seam/core/proof/shown/seamLine';
import { showerModel } from '@careful-seam/core/shower/geometry/showerModel';
import { arrange, toSheet } from '@careful-seam/core/shower/map/arrange';
import { unfold } from '@careful-seam/core/shower/map/unfold';
import { sampleShower } from '@careful-seam/core/tests/sampleShower';
import { BOOK, begun, climb, fold, pass, placeOf, tablet } from '@careful-seam/core/tests/sampleTablet';
import { floodVerdict } from '@careful-seam/core/water/floodVerdict';
import { geometryOf, SKETCHES } from '@careful-seam/demo/demoMethods';
import { guessMapping, readLevels, readLoggerTable } from '@careful-seam/files/loggerCsv';
import { loggerFile, simulatedLogger } from '@careful-seam/instruments/simulatedLogger';
import { appendEntries } from '@careful-seam/server/ledger/appendEntries';
import { openStore } from '@careful-seam/server/store/dataSource';
import { writeSection } from './performanceDoc';
import { dayOfTwelve, firmPlans } from './planBench';
import { surveyBench } from './surveyBench';
import { fullestCall } from './traceBench';

/** Ratios of medians, measured in turn within one run; nothing here depends on how fast the machine is. */
export interface Row {
  what: string;
  medianMs: number;
  againstMs: number;
  ratio: number;
  atMost: number;
}

const median = (times: number[]): number => times.sort((a, b) => a - b)[Math.floor(times.length / 2)]!;

function timed(work: () => unknown): number {
  const start = performance.now();
  work();
  return performance.now() - start;
}

/** A fixed document of 200 kB: numbers, words and nesting as a record has them. */
export function referenceDocument(): string {
  const rows: unknown[] = [];
  for (let i = 0; JSON.stringify(rows).length < 200_000; i += 40) {
    for (let k = i; k < i + 40; k += 1)
      rows.push({
        id: sha256Hex(String(k)).slice(0, 36),
        kind: 'reading',
        atMm: k * 1.5875,
        valueMm: 50.8 + (k % 16),
        place: { element: `floor-wall|floor|wall:${k % 4}`, side: 'floor' },
        by: 'A person',
        counts: k % 3 === 0,
      });
  }
  return JSON.stringify(rows);
}

function against(what: string, atMost: number, work: () => unknown, reference: () => unknown, runs = 200): Row {
  for (let i = 0; i < 40; i += 1) {
    work();
    reference();
  }
  const [mine, theirs]: [number[], number[]] = [[], []];
  for (let i = 0; i < runs; i += 1) {
    mine.push(timed(work));
    theirs.push(timed(reference));
  }
  const [medianMs, againstMs] = [median(mine), median(theirs)];
  return { what, medianMs, againstMs, ratio: medianMs / againstMs, atMost };
}

function inspected(): Entry[] {
  const t = begun();
  climb(t, 'membrane');
  pass(t, 'membrane');
  return t.entries;
}

function modelMapLedger(entries: readonly Entry[]): () => unknown {
  const state = fold(entries);
  return () => {
    const model = showerModel(sampleShower());
    if (!model.ok) throw new Error(model.problem.code);
    const { lines } = buildLedger(state, ['membrane']);
    const byId = new Map(lines.map((l) => [l.seam, l]));
    const lengths = new Map(model.value.seams.map((s) => [s.id, s.lengthMm]));
    const { panels } = arrange(unfold(model.value), { width: 660, height: 660, gap: 12, title: 22 });
    return panels.flatMap((p) =>
      p.panel.seams.map((d) =>
        lineWork(
          byId.get(d.seam)!,
          lengths.get(d.seam)!,
          d.points.map((x) => toSheet(p, x)),
          { tooth: 9, tick: 6, gap: 4 },
        ),
      ),
    );
  };
}

/** The hardest shower of the demo: neo-angle, half wall, two niches with a shelf, bench, waterproof ceiling. */
function hardest(): () => unknown {
  const geometry = geometryOf(SKETCHES.find((s) => s.ceiling && s.niches && s.bench)!);
  return () => {
    const model = showerModel(geometry);
    if (!model.ok) throw new Error(model.problem.code);
    return model.value;
  };
}

/** Median and worst of drawing it anew while a dimension is dragged: model, laying open and arranging, ms. */
function redraws(): string {
  const sketch = SKETCHES.find((s) => s.ceiling && s.niches && s.bench)!;
  const times = Array.from({ length: 240 }, (_, k) =>
    timed(() => {
      const model = showerModel(geometryOf({ ...sketch, depthIn: 54 + (k % 60) / 16 }));
      if (!model.ok) throw new Error(model.problem.code);
      return arrange(unfold(model.value), { width: 800, height: 660, gap: 12, title: 22 });
    }),
  ).slice(40);
  return `${median(times).toFixed(1)} ms at the median, ${Math.max(...times).toFixed(1)} ms at the worst`;
}

function twoThousand(): Entry[] {
  const t = begun();
  climb(t, 'membrane');
  const state = fold(t.entries);
  const laps = state.requirements.filter((r) => r.check.id === 'lap');
  const more = tablet(2);
  more.hears(t.entries);
  for (let i = 0; t.entries.length + more.entries.length < 2000; i += 1) {
    const r = laps[i % laps.length]!;
    const place = placeOf(state, r.element, r.side ? { side: r.side } : {});
    if (i % 9 === 0)
      more.write('look', {
        stage: 'membrane',
        checks: ['lap', 'bond'],
        places: [placeOf(state, r.element)],
        answer: 'ok',
      });
    else
      more.write('reading', {
        stage: 'membrane',
        check: 'lap',
        place,
        atMm: (i * 37) % r.lengthMm,
        valueMm: 51 + (i % 9),
        typed: '2 1/8',
        instrument: 'tape',
      });
  }
  return [...t.entries, ...more.entries];
}

const INSERT =
  'INSERT INTO entry (id, shower_id, ledger_seq, kind, author_id, device_id, device_seq, hash, text, order_at, received_at, prev_ledger_hash, ledger_hash, skew_ms) VALUES ($1,$2,$3,$4,$5,$6,$7,$8,$9,$10,$11,$12,$13,$14)';

async function appending(url: string, runs: number): Promise<Row> {
  const store = await openStore(url, 1);
  const person = { id: 'bench', name: 'Bench', role: 'inspector' as const, crewId: null };
  const context = () => ({ person, now: new Date(), skewMs: 0 });
  const seal = (showerId: string, end: ChainEnd, kind: 'note' | 'shower-created') => {
    const body =
      kind === 'note'
        ? { words: 'a note of usual length, as written on site' }
        : { name: 'n', job: 'j', crewId: 'c', timeZone: 'UTC' };
    return writeEntry(
      {
        id: randomUUID(),
        showerId,
        kind,
        body: body as never,
        author: { id: person.id, name: person.name, role: person.role },
        geometryVersion: 0,
        nowMs: Date.now(),
        offsetMinutes: 0,
      },
      end,
    );
  };
  const begin = async () => {
    const showerId = randomUUID();
    const first = seal(
      showerId,
      { deviceId: randomUUID(), deviceSeq: 0, prevDeviceHash: null, lastOrderAt: null },
      'shower-created',
    );
    await appendEntries(store, showerId, [first.sealed.text], context());
    return { showerId, end: first.end };
  };
  const ours = await begin();
  const bare = await begin();
  let bareSeq = 1;
  const [mine, theirs]: [number[], number[]] = [[], []];
  for (let i = 0; i < runs; i += 1) {
    const next = seal(ours.showerId, ours.end, 'note');
    ours.end = next.end;
    let start = performance.now();
    const answer = await appendEntries(store, ours.showerId, [next.sealed.text], context());
    mine.push(performance.now() - start);
    if (answer.refused) throw new Error(answer.refused.code);

    const { sealed, end } = seal(bare.showerId, bare.end, 'note');
    bare.end = end;
    bareSeq += 1;
    const { entry } = sealed;
    const values = [
      entry.id,
      bare.showerId,
      bareSeq,
      entry.kind,
      person.id,
      entry.deviceId,
      entry.deviceSeq,
      Buffer.from(sealed.hash, 'hex'),
      sealed.text,
      entry.orderAt,
      new Date().toISOString(),
      null,
      Buffer.from(sealed.hash, 'hex'),
      0,
    ];
    const runner = store.createQueryRunner();
    start = performance.now();
    await runner.query('BEGIN');
    await runner.query('SELECT head_seq, head_hash FROM shower_head WHERE shower_id = $1 FOR UPDATE', [bare.showerId]);
    await runner.query(INSERT, values);
    await runner.query(
      'UPDATE shower_head SET head_seq = $2, head_hash = $3, updated_at = now() WHERE shower_id = $1',
      [bare.showerId, bareSeq, Buffer.from(sealed.hash, 'hex')],
    );
    await runner.query('COMMIT');
    theirs.push(performance.now() - start);
    await runner.release();
  }
  await store.destroy();
  const [medianMs, againstMs] = [median(mine.slice(30)), median(theirs.slice(30))];
  return {
    what: 'append one entry, against the same transaction in bare SQL',
    medianMs,
    againstMs,
    ratio: medianMs / againstMs,
    atMost: 3,
  };
}

/** A 72 h series at a reading a minute, with its pan: the verdict against reading its CSV file. */
function flooding(): Row {
  const rows = simulatedLogger({
    flood: {
      method: 'logger',
      leakMmPerDay: 0,
      evaporationMmPerDay: 2,
      hours: 72,
      everyHours: 1 / 60,
      resolutionMm: 0.1,
      scatterMm: 0.15,
      correlationHours: 1,
      smallestLeakMmPerDay: 1,
      seed: 1,
    },
  });
  const file = loggerFile(rows, {
    separator: ',',
    decimalComma: false,
    byteOrderMark: false,
    unit: 'mm',
    preamble: [],
    elapsed: 'min',
  });
  const readings = (of: 'waterMm' | 'panMm') => rows.map((r) => ({ atHours: r.hours, levelMm: r[of] }));
  const input = {
    method: 'logger' as const,
    readings: readings('waterMm'),
    resolutionMm: 0.1,
    pan: { readings: readings('panMm'), resolutionMm: 0.1 },
    smallestLeakMmPerDay: 1,
    plannedHours: 72,
    moistureFound: false,
  };
  const parse = () => {
    const table = readLoggerTable(file);
    if (!table.ok) throw new Error(table.problem.code);
    return readLevels(table.value, guessMapping(table.value, 'UTC', 0));
  };
  return against(
    'flood verdict from 72 h at a reading a minute with its pan, against reading its CSV file',
    20,
    () => floodVerdict(input),
    parse,
  );
}

/** Guesses at the true heights of a survey against compiled fills of a grid over the same floor. */
function surveying(): Row[] {
  const found = surveyBench();
  if (!found) {
    console.log('No C++ compiler here: the survey is not compared.');
    return [];
  }
  return [
    {
      what: `500 guesses of fall and ponds from 54 shots (${found.vertices} vertices), against as many compiled fills of a 200 x 120 grid`,
      medianMs: found.mineMs,
      againstMs: found.theirsMs,
      ratio: found.mineMs / found.theirsMs,
      atMost: 1,
    },
  ];
}

/** A year of a reading a minute through the cure clock, for cement and for a coat, against one exponential a reading. */
function curing(): Row[] {
  const count = 525_600;
  const airC = Float64Array.from({ length: count }, (_, i) => 15 + 8 * Math.sin(i / 229) + 0.3 * Math.sin(i));
  const log = {
    atMs: Float64Array.from({ length: count }, (_, i) => i * 60_000),
    airC,
    relativeHumidity: Float64Array.from({ length: count }, (_, i) => 0.6 + 0.2 * Math.cos(i / 229)),
  };
  const layer = { laidAtMs: 0, labelHours: 1e9, model: 'arrhenius' as const, filmRatio: 1 };
  const reference = () => {
    let sum = 0;
    for (let i = 0; i < count; i += 1) sum += Math.exp(-5000 * (1 / (airC[i]! + 273.15) - 1 / 296.15));
    return sum;
  };
  return (['cement', 'drying'] as const).map((kind) =>
    against(
      `a year of a reading a minute through the cure clock (${kind}), against one exponential a reading`,
      3,
      () => cureReady({ ...layer, kind }, log),
      reference,
      20,
    ),
  );
}

async function main(): Promise<void> {
  const text = referenceDocument();
  const parse = () => JSON.parse(text) as unknown;
  const many = twoThousand();
  const rows = [
    against(
      'model + map + ledger of one shower, against parsing the 200 kB document',
      3,
      modelMapLedger(inspected()),
      parse,
    ),
    against('model of the hardest demo shower, against parsing the 200 kB document', 10, hardest(), parse),
    against('fold of 2,000 entries, against parsing the 200 kB document', 5, () => foldShower(many, () => BOOK), parse),
    flooding(),
    await appending(process.env.BENCH_DATABASE_URL!, 400),
    // A goal of 50 ms for 200 plans and of 100 ms for a way, on a machine that parses the document in a millisecond.
    against('plans of 200 open showers, against parsing the 200 kB document', 50, firmPlans(), parse, 20),
    against(
      'a call of 200 suspects after 14 tests, ranked with its next test, against parsing the 200 kB document',
      16.7,
      fullestCall(),
      parse,
      20,
    ),
    against('the way through 12 stops, against parsing the 200 kB document', 100, dayOfTwelve(), parse, 20),
    ...curing(),
    ...surveying(),
  ];
  const table = [
    '| what | median ms | reference ms | ratio | at most |',
    '|---|---|---|---|---|',
    ...rows.map(
      (r) =>
        `| ${r.what} | ${r.medianMs.toFixed(2)} | ${r.againstMs.toFixed(2)} | **${r.ratio.toFixed(2)}** | ${r.atMost} |`,
    ),
  ].join('\n');
  console.log(table);
  writeSection(
    'Speed',
    `Ratios of medians measured in turn within one run, so that the machine's own speed drops out. Made by \`npm run bench\`.\nThe reference document is generated by the bench itself: ${Math.round(text.length / 1000)} kB of JSON as a record has it.\n\n${table}\n\nDrawing the hardest demo shower anew while a dimension is dragged (model, laid open, arranged; 200 steps of 1/16 in on this machine): ${redraws()}; a frame is 16.7 ms.`,
  );
  if (rows.some((r) => r.ratio > r.atMost)) process.exitCode = 1;
}

await main();
