// Changes the rooms that the proof is made of, one place at a time, and says how many of the changes their tests notice.
// npm run mutants [--lines n] [room ...]; without a room, all five one after the other. The lists lie in
// test-results/mutants-<room>.json (a slash of the room written as a dash). With --lines, that many lines of each room are drawn at random (MUTANTS_SEED) and only what
// lies within one of them is changed, module-level constants apart: a large room takes a night, a sample half an hour.
import { spawnSync } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';

/** Each room with the rooms whose tests judge it. */
const ROOMS = {
  log: ['log', 'proof'],
  cure: ['cure', 'proof'],
  'membrane/film': ['membrane/film', 'proof'],
  water: ['water', 'proof'],
  proof: ['proof'],
};

const SEED = Number(process.env.MUTANTS_SEED ?? 20_261_128);
const LEFT_OUT = /\.test\.ts$|siteScenarios\.ts$|simulateFlood\.ts$/;

/** Numbers between 0 and 1, the same for a seed. */
function numbers(seed) {
  let state = seed >>> 0;
  return () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return state / 4_294_967_296;
  };
}

/** So many lines of a room that hold code, drawn at random, as the places to change. */
function drawLines(room, count) {
  const lines = readdirSync(`core/src/${room}`, { recursive: true })
    .map((name) => `core/src/${room}/${name}`)
    .filter((file) => file.endsWith('.ts') && !LEFT_OUT.test(file))
    .sort()
    .flatMap((file) =>
      readFileSync(file, 'utf8')
        .split('\n')
        .flatMap((text, i) => (/^\s*(\/?\*|\/\/|import |[})\];,]*$)/.test(text) ? [] : [`${file}:${i + 1}-${i + 1}`])),
    );
  const next = numbers(SEED);
  const drawn = [];
  while (drawn.length < count && lines.length > 0) drawn.push(...lines.splice(Math.floor(next() * lines.length), 1));
  return drawn;
}

const args = process.argv.slice(2);
const sample = args[0] === '--lines' ? Number(args.splice(0, 2)[1]) : null;
const wanted = args;
const unknown = wanted.filter((room) => !(room in ROOMS));
if (unknown.length > 0) {
  console.error(`No room of that name: ${unknown.join(', ')}. There are ${Object.keys(ROOMS).join(', ')}.`);
  process.exit(2);
}

for (const room of wanted.length > 0 ? wanted : Object.keys(ROOMS)) {
  const { status } = spawnSync('npx', ['stryker', 'run', 'stryker.config.mjs'], {
    stdio: 'inherit',
    env: {
      ...process.env,
      MUTANTS_ROOM: room,
      MUTANTS_TESTS: ROOMS[room].join(','),
      ...(sample ? { MUTANTS_PLACES: drawLines(room, sample).join(' ') } : {}),
    },
  });
  if (status !== 0) process.exit(status ?? 1);
  const { files } = JSON.parse(readFileSync(`test-results/mutants-${room.replace('/', '-')}.json`, 'utf8'));
  const count = { Killed: 0, Timeout: 0, Survived: 0, NoCoverage: 0 };
  for (const { mutants } of Object.values(files))
    for (const { status: found } of mutants) if (found in count) count[found] += 1;
  const killed = count.Killed + count.Timeout;
  const all = killed + count.Survived + count.NoCoverage;
  const of = sample ? `, of ${sample} lines drawn with seed ${SEED}` : '';
  console.log(`${room}: ${killed} of ${all} changes noticed (${((100 * killed) / all).toFixed(1)} %${of})`);
}
