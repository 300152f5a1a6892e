// npm run bench, a part: questions across crews in ten thousand showers, against bare SQL over the same tables; the projector; an append beside it.

import { type ChildProcess, fork } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { availableParallelism, tmpdir } from 'node:os';
import { join } from 'node:path';
import { HoldsAsk, MonthsAsk, QuestionAsk, WrongAsk } from '@careful-seam/contract/api/crews';
import { DefectsAsk } from '@careful-seam/contract/api/defects';
import type { Person } from '@careful-seam/contract/api/messages';
import { PEOPLE } from '@careful-seam/demo/firm';
import { loadDemoFirm } from '@careful-seam/demo/load/loadDemoFirm';
import { byMonth } from '@careful-seam/server/crews/byMonth';
import { compareCrews } from '@careful-seam/server/crews/compareCrews';
import { listDefects } from '@careful-seam/server/crews/defectList';
import { howLong } from '@careful-seam/server/crews/howLong';
import { lookHarder } from '@careful-seam/server/crews/lookHarder';
import { namesIn } from '@careful-seam/server/crews/names';
import { slippedThrough } from '@careful-seam/server/crews/slippedThrough';
import { whatGoesWrong } from '@careful-seam/server/crews/whatGoesWrong';
import { followLedgers, forgetFacts } from '@careful-seam/server/facts/projector';
import { appendEntries } from '@careful-seam/server/ledger/appendEntries';
import { openStore } from '@careful-seam/server/store/dataSource';
import { testTablet } from '@careful-seam/server/tests/testTablet';
import { makeWords } from '@careful-seam/words/texts/words';
import { v4 } from 'uuid';
import { writeSection } from './performanceDoc';

/** A tenth of what a firm of a hundred crews has in ten years: what this machine holds in minutes; `FACTS_SHOWERS=100000` fills all of it. */
const SHOWERS = Number(process.env.FACTS_SHOWERS ?? 10_000);
/** Questions are asked so many times. */
const TIMES = 9;
/** Entries that are appended with the projector and without it. */
const APPENDED = 150;

/** The middle one of some figures. */
const median = (list: readonly number[]): number => [...list].sort((a, b) => a - b)[list.length >> 1]!;

const store = await openStore(process.env.BENCH_DATABASE_URL!, 6);
const picturePlace = mkdtempSync(join(tmpdir(), 'seam-bench-facts-'));
await loadDemoFirm({ store, picturePlace, now: () => new Date(), years: true });

async function timed(work: () => Promise<unknown>, times = TIMES): Promise<number> {
  const took: number[] = [];
  await work();
  for (let k = 0; k < times; k += 1) {
    const from = performance.now();
    await work();
    took.push(performance.now() - from);
  }
  return median(took);
}

// The projector over two years of entries, from nothing; the second time the program is warm.
const [{ entries }] = await store.query('SELECT count(*)::int AS entries FROM entry');
const follow = async () => {
  while ((await followLedgers(store, Date.now() + 60_000)) > 0);
};
await follow();
/** Followers that are ready to begin, each a process, one a core: as many as `npm run facts -- --rebuild` has. */
const followers = Array.from({ length: availableParallelism() }, () =>
  fork('bench/follower.bench.ts', { execArgv: ['--import', 'tsx'] }),
);
/** What a follower says next. */
const said = (follower: ChildProcess) => new Promise<unknown>((heard) => follower.once('message', heard));
await Promise.all(followers.map(said));
/** Entries a second that some followers count together from nothing; the first time is for getting warm. */
async function countedBy(some: readonly ChildProcess[]): Promise<number> {
  const runs: number[] = [];
  for (let k = 0; k < 4; k += 1) {
    await forgetFacts(store);
    const from = performance.now();
    const ends = some.map(said);
    for (const follower of some) follower.send('count');
    await Promise.all(ends);
    runs.push((entries / (performance.now() - from)) * 1000);
  }
  return median(runs.slice(1));
}
const alone = await countedBy(followers.slice(0, 1));
const perSecond = await countedBy(followers);
for (const follower of followers) follower.disconnect();
await follow();

// Copies of the two years, each under ids of its own.
const [{ showers }] = await store.query('SELECT count(*)::int AS showers FROM shower');
const copies = Math.ceil(SHOWERS / showers) - 1;
await store.query('CREATE TEMP TABLE IF NOT EXISTS nothing (x int)');
for (let k = 0; k < copies; k += 1) {
  await store.query(
    `WITH ids AS (SELECT id AS old, gen_random_uuid() AS new FROM shower WHERE job NOT LIKE 'Copy %'),
    s AS (INSERT INTO shower (id, name, job, crew_id) SELECT new, name, 'Copy ' || $1 || ' ' || job, crew_id FROM ids JOIN shower ON id = old),
    h AS (INSERT INTO shower_head (shower_id, head_seq, head_hash, updated_at, is_signed)
      SELECT new, head_seq, head_hash, updated_at, is_signed FROM ids JOIN shower_head ON shower_id = old),
    p AS (INSERT INTO projection (shower_id, head_seq, version)
      SELECT new, head_seq, version FROM ids JOIN projection ON shower_id = old),
    d AS (INSERT INTO defect_counted SELECT new, gen_random_uuid(), made_by, crew, trade, made_by_told, fixer, inspector, stage_made, stage_found,
      element_group, element, kind, check_id, severity, cause, sure, escape, step, method, found_at, found_on, assigned_at, closed_at, hours,
      materials, repeats, words, version FROM ids JOIN defect_counted ON shower_id = old),
    i AS (INSERT INTO inspected_counted SELECT new, stage, element_group, day, crew, method, mm, points, version FROM ids JOIN inspected_counted ON shower_id = old),
    e AS (INSERT INTO pass_counted SELECT new, stage, check_id, element_group, day, mm, points, version FROM ids JOIN pass_counted ON shower_id = old)
    INSERT INTO minutes_counted SELECT new, stage, day, minutes, version FROM ids JOIN minutes_counted ON shower_id = old`,
    [k],
  );
}
await store.query('VACUUM ANALYZE');
await follow();
const [size] = await store.query(
  `SELECT (SELECT count(*) FROM shower)::int AS showers, (SELECT count(*) FROM defect_fact)::int AS defects, (SELECT count(*) FROM inspected_fact)::int AS inspected,
    pg_size_pretty(pg_total_relation_size('defect_counted') + pg_total_relation_size('inspected_counted') + pg_total_relation_size('pass_counted') + pg_total_relation_size('minutes_counted')) AS facts`,
);

const maren = PEOPLE.find((p) => p.key === 'manager')!;
const person: Person = { id: maren.id, name: maren.name, role: 'manager', crewId: null };
const names = await namesIn(store, 'en');
const { t } = makeWords('en');
const all = QuestionAsk.parse({});
const niche = QuestionAsk.parse({ group: 'niche' });
const months = MonthsAsk.parse({});
/** What somebody would write by hand for the same figures. */
const bare = (sql: string) => () => store.query(sql);
const rows: [what: string, answer: () => Promise<unknown>, reference: () => Promise<unknown>][] = [
  [
    'what is open, first page',
    () => listDefects(store, person, DefectsAsk.parse({ state: 'open' }), names),
    bare(
      `SELECT f.*, s.name, s.job, count(*) OVER () FROM defect_fact f JOIN shower s ON s.id = f.shower_id WHERE f.closed_at IS NULL ORDER BY f.found_at DESC LIMIT 100`,
    ),
  ],
  [
    'is a crew different, all seams',
    () => compareCrews(store, person, all, names),
    bare(
      `WITH d AS (SELECT crew, shower_id, count(*) n FROM defect_fact WHERE made_by = 'crew' GROUP BY 1, 2), e AS (SELECT crew, shower_id, sum(mm) x FROM inspected_fact GROUP BY 1, 2)
      SELECT crew, sum(n), sum(x), sum(n * n / nullif(x, 0)) FROM d FULL JOIN e USING (crew, shower_id) GROUP BY 1`,
    ),
  ],
  [
    'is a crew different, niches',
    () => compareCrews(store, person, niche, names),
    bare(
      `WITH d AS (SELECT crew, shower_id, count(*) n FROM defect_fact WHERE made_by = 'crew' AND element_group = 'niche' GROUP BY 1, 2), e AS (SELECT crew, shower_id, sum(mm) x FROM inspected_fact WHERE element_group = 'niche' GROUP BY 1, 2)
      SELECT crew, sum(n), sum(x), sum(n * n / nullif(x, 0)) FROM d FULL JOIN e USING (crew, shower_id) GROUP BY 1`,
    ),
  ],
  [
    'what goes wrong, by kind',
    () => whatGoesWrong(store, WrongAsk.parse({}), names, t),
    bare('SELECT kind, count(*), sum(hours), sum(materials) FROM defect_fact GROUP BY 1 ORDER BY 2 DESC'),
  ],
  [
    'where did it slip through',
    () => slippedThrough(store, all, names),
    bare(
      `WITH m AS (SELECT stage_made, stage_found, kind, count(*) FROM defect_fact GROUP BY 1, 2, 3), h AS (SELECT DISTINCT check_id, stage_found FROM defect_fact)
      SELECT (SELECT count(*) FROM m), p.* FROM (SELECT stage, check_id, sum(mm), sum(points) FROM pass_fact f WHERE NOT EXISTS (SELECT 1 FROM h WHERE h.check_id = f.check_id AND h.stage_found = f.stage) GROUP BY 1, 2) p`,
    ),
  ],
  [
    'does it get better, by month',
    () => byMonth(store, months),
    bare(
      `WITH d AS (SELECT to_char(found_on, 'YYYY-MM') m, count(*) n FROM defect_fact GROUP BY 1), e AS (SELECT to_char(day, 'YYYY-MM') m, sum(mm) x FROM inspected_fact GROUP BY 1),
      b AS (SELECT crew, shower_id, count(*) n FROM defect_fact GROUP BY 1, 2), c AS (SELECT crew, shower_id, sum(mm) x FROM inspected_fact GROUP BY 1, 2)
      SELECT d.*, e.x, (SELECT sum(n * n / nullif(x, 0)) FROM b JOIN c USING (crew, shower_id)) FROM d FULL JOIN e USING (m) ORDER BY 1`,
    ),
  ],
  [
    'how long does a hold stand',
    () => howLong(store, HoldsAsk.parse({}), names, t, new Date()),
    bare(
      `SELECT severity, closed_at IS NULL, ceil(extract(epoch FROM coalesce(closed_at, now()) - found_at) / 8640), count(*) FROM defect_fact WHERE severity <> 'note' GROUP BY 1, 2, 3`,
    ),
  ],
  [
    'where to look harder',
    () => lookHarder(store, 600, names, new Date()),
    bare(
      `WITH d AS (SELECT crew, element_group, count(*) n FROM defect_fact GROUP BY 1, 2) SELECT crew, element_group, sum(mm), sum(mm) FILTER (WHERE day > current_date - 91), max(n) FROM inspected_fact JOIN d USING (crew, element_group) GROUP BY 1, 2`,
    ),
  ],
];
const measured: { what: string; ms: number; reference: number }[] = [];
for (const [what, answer, reference] of rows)
  measured.push({ what, ms: await timed(answer), reference: await timed(reference) });

// An append with nothing beside it, and with the projector looking every two seconds as it does in service.
async function appends(): Promise<number> {
  const showerId = v4();
  const tablet = testTablet(person, showerId);
  const took: number[] = [];
  for (let k = 0; k < APPENDED; k += 1) {
    const text =
      k === 0
        ? tablet.seal('shower-created', { name: 'Bench', job: 'Bench', crewId: 'crew-heron', timeZone: 'UTC' })
        : tablet.seal('note', { words: `Note ${k}` });
    const begun = performance.now();
    await appendEntries(store, showerId, [text], { person, now: new Date(), skewMs: 0 });
    took.push(performance.now() - begun);
    // As fast as somebody types: the projector has its turns in between.
    await new Promise((later) => setTimeout(later, 20));
  }
  return median(took);
}
const pairs: [alone: number, beside: number][] = [];
for (let k = 0; k < 3; k += 1) {
  const alone = await appends();
  const timer = setInterval(() => void followLedgers(store, Date.now() + 30_000), 2000);
  pairs.push([alone, await appends()]);
  clearInterval(timer);
}
const [appendAlone, beside] = [median(pairs.map((p) => p[0])), median(pairs.map((p) => p[1]))];
await store.destroy();

const table = [
  '| question | median ms | bare SQL, ms | ratio | at most |',
  '|---|---|---|---|---|',
  ...measured.map(
    (m) =>
      `| ${m.what} | ${m.ms.toFixed(1)} | ${m.reference.toFixed(1)} | **${(m.ms / m.reference).toFixed(2)}** | 1.5, or 40 ms more |`,
  ),
  '',
  `| beside | found | wanted |`,
  '|---|---|---|',
  `| the projector, entries a second, a process for each of ${followers.length} cores (one alone: ${alone.toFixed(0)}) | ${perSecond.toFixed(0)} | 8,000 |`,
  `| an append while it follows, against one without it | ${(beside / appendAlone).toFixed(2)} (${beside.toFixed(2)} and ${appendAlone.toFixed(2)} ms) | 1.05 |`,
].join('\n');
console.log(`${JSON.stringify(size)}\n${table}`);
/** What part of what is asked for this was. */
const HOW_MUCH =
  SHOWERS < 100_000
    ? 'a tenth of what is asked for (100,000 showers), since this machine holds no more in minutes (`FACTS_SHOWERS=100000` fills all of it)'
    : 'as many showers as are asked for; their entries, of which there would be five million, are those of the two years alone';
writeSection(
  SHOWERS < 100_000 ? 'Questions across crews' : 'Questions across crews in 100,000 showers',
  `Made by \`npm run bench\`: ${HOW_MUCH}: ${size.showers.toLocaleString('en')} showers, ${size.defects.toLocaleString('en')} defects, ${size.inspected.toLocaleString('en')} lines of what was looked at, ${size.facts} of facts; copies of the two invented years. Each answer against what somebody would write by hand over the same tables. What is reckoned once for any number of showers, such as limits and intervals, may take 40 ms more.\n\n${table}`,
);
process.exitCode = measured.every((m) => m.ms < 300 && (m.ms - m.reference < 40 || m.ms / m.reference <= 1.5)) ? 0 : 1;
process.exit();
