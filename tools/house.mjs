// npm run house: how the code is built, in figures. `--check` fails where a bound that CI holds is broken; `--draw` draws the picture of
// docs/architecture.md anew.
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join, relative, resolve, sep } from 'node:path';
import { parseSync } from 'oxc-parser';

const PROJECT = join(import.meta.dirname, '..');
const PACKAGES = ['core', 'contract', 'words', 'files', 'web', 'server', 'instruments', 'demo'];
const KINDS = ['measured', 'looked', 'number', 'position', 'proof', 'flood', 'wait', 'survey', 'film'];

const isTest = (path) => /\.test\.tsx?$/.test(path) || path.split(sep).includes('tests');
const sourcesOf = (name) => {
  const root = join(PROJECT, name, 'src');
  return readdirSync(root, { recursive: true, encoding: 'utf8' })
    .filter((path) => /\.tsx?$/.test(path) && !path.endsWith('.d.ts') && !isTest(path))
    .map((path) => join(root, path));
};

/** The room of a file: the first folder below `src`, or the two first ones where that only gathers rooms. */
function roomOf(name, path) {
  const parts = relative(join(PROJECT, name, 'src'), path).split(sep);
  if (parts.length === 1) return '(top)';
  return parts[0] === 'rooms' && parts.length > 2 ? `rooms/${parts[1]}` : parts[0];
}

/** Rooms that can reach each other, by Tarjan's way: each list of more than one is a circle. */
function circlesOf(edges) {
  const [index, low, stack, circles] = [new Map(), new Map(), [], []];
  const visit = (room) => {
    index.set(room, index.size);
    low.set(room, index.get(room));
    stack.push(room);
    for (const next of edges.get(room) ?? []) {
      if (!index.has(next)) visit(next);
      if (stack.includes(next)) low.set(room, Math.min(low.get(room), low.get(next)));
    }
    if (low.get(room) !== index.get(room)) return;
    const circle = stack.splice(stack.indexOf(room));
    if (circle.length > 1) circles.push(circle.sort());
  };
  for (const room of edges.keys()) if (!index.has(room)) visit(room);
  return circles;
}

const CHECK_KIND = new RegExp(`kind [!=]== '(${KINDS.join('|')})'|case '(${KINDS.join('|')})'`);

/** Functions of more lines than this are taken apart; files likewise. */
const [FUNCTION_LINES, FILE_LINES] = [100, 300];

const isFunction = ({ type, body }) =>
  body && (type === 'FunctionDeclaration' || type === 'FunctionExpression' || type === 'ArrowFunctionExpression');

/** What a file imports from beside it, its long functions, and how many of its lines are comment and code. */
function measure(path) {
  const text = readFileSync(path, 'utf8');
  const { program, comments, module, errors } = parseSync(path, text);
  if (errors.length > 0) throw new Error(`${path}: ${errors[0].message}`);
  const starts = [0, ...[...text.matchAll(/\n/g)].map((m) => m.index + 1)];
  const lineOf = (at) => starts.findLastIndex((start) => start <= at);
  const linesOf = ({ start, end }) => lineOf(end - 1) - lineOf(start) + 1;
  const functions = [];
  const visit = (node, name) => {
    if (Array.isArray(node)) for (const one of node) visit(one, name);
    else if (node && typeof node.type === 'string') {
      const own = node.id?.name ?? node.key?.name ?? name;
      if (isFunction(node) && linesOf(node) > FUNCTION_LINES) functions.push({ name: own, lines: linesOf(node) });
      for (const value of Object.values(node)) if (value && typeof value === 'object') visit(value, own);
    }
  };
  visit(program.body, '');
  const commented = new Set(comments.flatMap((c) => Array.from({ length: linesOf(c) }, (_, k) => lineOf(c.start) + k)));
  const lines = text.split('\n');
  const blank = lines.filter((line) => line.trim() === '').length;
  const from = [...module.staticImports, ...module.staticExports.flatMap((e) => e.entries)].flatMap(
    (i) => i.moduleRequest?.value ?? [],
  );
  return {
    lines: lines.length - 1,
    functions,
    comments: commented.size,
    code: lines.length - blank - commented.size,
    branches: CHECK_KIND.test(text),
    imports: from.filter((to) => to.startsWith('.')).map((to) => resolve(dirname(path), to)),
  };
}

function house() {
  return PACKAGES.map((name) => {
    const files = sourcesOf(name).map((path) => ({ path, ...measure(path) }));
    const rooms = new Map();
    for (const { path } of files) rooms.set(roomOf(name, path), (rooms.get(roomOf(name, path)) ?? 0) + 1);
    const counts = new Map([...rooms.keys()].map((room) => [room, new Map()]));
    for (const { path, imports } of files)
      for (const to of imports) {
        const [from, other] = [counts.get(roomOf(name, path)), roomOf(name, to)];
        if (other !== roomOf(name, path)) from.set(other, (from.get(other) ?? 0) + 1);
      }
    const edges = new Map([...counts].map(([room, to]) => [room, new Set(to.keys())]));
    const sum = (what) => files.reduce((n, f) => n + f[what], 0);
    const at = ({ path }) => relative(PROJECT, path);
    return {
      name,
      rooms: rooms.size,
      single: [...rooms.values()].filter((n) => n === 1).length,
      counts,
      edges,
      circles: circlesOf(edges),
      long: files.filter((f) => f.lines > FILE_LINES).map((f) => `${at(f)} ${f.lines}`),
      functions: files.flatMap((f) => f.functions.map((g) => `${at(f)} ${g.name} ${g.lines}`)),
      branching: files.filter((f) => f.branches).map(at),
      ratio: sum('comments') / sum('code'),
      lines: sum('lines'),
    };
  });
}

/** Rooms of core in their order: each may import those before it. */
const ORDER = [
  'outcome',
  'units',
  'shower',
  'membrane',
  'walls',
  'cure',
  'water',
  'floor',
  'materials',
  'rules',
  'log',
  'checks',
  'proof',
  'plan',
  'trace',
  'crews',
  'calc',
];

/** Layers of the tablet's pages: each may import those before it; rooms stand beside each other and import none of them. */
const LAYERS = ['texts', 'ui', 'tablet', 'drawing', 'shared', 'rooms', 'app', '(top)'];

/** Imports of web that go against its layers, or sideways from room to room. */
function sideways({ edges }) {
  const layer = (room) => LAYERS.indexOf(room.split('/')[0]);
  return [...edges].flatMap(([room, to]) =>
    [...to]
      .filter((other) => layer(other) < 0 || layer(other) >= layer(room))
      .map((other) => `web/${room} imports web/${other}, which is not below it`),
  );
}

/** Paths in backquotes that a page names and that are not there. */
function deadPaths(page) {
  const text = readFileSync(join(PROJECT, page), 'utf8');
  const named = [
    ...text.matchAll(
      /`((?:core|contract|words|files|server|web|docs|tools|deploy|e2e|demo|instruments|bench)\/[\w./-]*)`/g,
    ),
  ].map((m) => m[1]);
  return [...new Set(named)]
    .filter((path) => !existsSync(join(PROJECT, path)))
    .map((path) => `${page} names ${path}, which is not there`);
}

/** Decisions that their index does not name. */
function unlisted() {
  const folder = join(PROJECT, 'docs', 'decisions');
  const index = readFileSync(join(folder, 'README.md'), 'utf8');
  const all = readdirSync(folder).filter((name) => name !== 'README.md');
  return all
    .filter((name) => !index.includes(`(${name})`))
    .map((name) => `docs/decisions/README.md does not name ${name}`);
}

/** Packages in which no rooms may import each other in a circle. */
const ROUND = ['core', 'contract', 'words', 'files', 'web', 'server'];

/** How many files may be longer than a screen's scroll, none of them in core, and how many functions. */
const [LONG_FILES, LONG_FUNCTIONS] = [5, 5];

/** Files and functions that have grown beyond what somebody reads at once. */
function grown(all) {
  const files = all.flatMap((p) => p.long);
  const functions = all.flatMap((p) => p.functions);
  const inCore = all.find((p) => p.name === 'core').long;
  return [
    ...inCore.map((file) => `${file} lines: a file of core has at most ${FILE_LINES}`),
    ...(files.length > LONG_FILES ? [`${files.length} files have over ${FILE_LINES} lines: ${files.join('; ')}`] : []),
    ...(functions.length > LONG_FUNCTIONS
      ? [`${functions.length} functions have over ${FUNCTION_LINES} lines: ${functions.join('; ')}`]
      : []),
  ];
}

/** What CI holds: no circle between rooms, the order of core, the layers of web, and no page that leads nowhere. */
function faults(all) {
  const [core, web] = ['core', 'web'].map((name) => all.find((p) => p.name === name));
  return [
    ...all
      .filter(({ name }) => ROUND.includes(name))
      .flatMap(({ name, circles }) =>
        circles.map((circle) => `rooms of ${name} import each other: ${circle.join(', ')}`),
      ),
    ...[...core.edges].flatMap(([room, to]) =>
      [...to]
        .filter((other) => ORDER.indexOf(other) > ORDER.indexOf(room))
        .map((other) => `core/${room} imports core/${other}, which comes after it`),
    ),
    ...sideways(web),
    ...grown(all),
    ...['README.md', 'CONTRIBUTING.md', 'docs/architecture.md'].flatMap(deadPaths),
    ...unlisted(),
  ];
}

/** A package as a table: a row and a column for each room, a square where the row imports the column, darker for more imports. */
function matrix({ name, counts }, rooms, left) {
  const [cell, label, top] = [22, 118, 128];
  const square = (y, x) => {
    const n = counts.get(rooms[y])?.get(rooms[x]) ?? 0;
    const box = `x="${left + label + x * cell}" y="${top + y * cell}" width="${cell - 2}" height="${cell - 2}"`;
    if (x === y) return `<rect ${box} fill="#d8cfba"/>`;
    if (n === 0) return `<rect ${box} fill="none" stroke="#e4dccb"/>`;
    return `<rect ${box} fill="#1d4e63" fill-opacity="${Math.min(1, 0.35 + n / 25).toFixed(2)}"><title>${rooms[y]} imports ${rooms[x]} in ${n} places</title></rect>`;
  };
  return [
    `<text x="${left + label}" y="22" font-size="16" font-weight="700">${name}</text>`,
    ...rooms.map(
      (room, k) => `<text x="${left + label - 8}" y="${top + k * cell + 15}" text-anchor="end">${room}</text>`,
    ),
    ...rooms.map(
      (room, k) => `<text transform="translate(${left + label + k * cell + 15} ${top - 8}) rotate(-60)">${room}</text>`,
    ),
    ...rooms.flatMap((_, y) => rooms.map((__, x) => square(y, x))),
  ].join('\n');
}

/** The picture of the page on architecture, from the imports as they are. */
function draw(all) {
  const [core, web] = ['core', 'web'].map((name) => all.find((p) => p.name === name));
  const layer = (room) => LAYERS.indexOf(room.split('/')[0]);
  const rooms = [...web.counts.keys()]
    .filter((room) => room !== '(top)')
    .sort((a, b) => layer(a) - layer(b) || a.localeCompare(b));
  const width = 118 * 2 + 22 * (ORDER.length + rooms.length) + 60;
  const height = 140 + 22 * Math.max(ORDER.length, rooms.length);
  const about =
    'Rooms of core and of web: a row imports the columns that are filled; nothing stands right of the diagonal';
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" width="${width}" height="${height}" font-family="sans-serif" font-size="13" fill="#1f1c17" role="img" aria-label="${about}">
<rect width="${width}" height="${height}" fill="#f6f1e5"/>
${matrix(core, ORDER, 10)}
${matrix(web, rooms, 118 + 22 * ORDER.length + 40)}
</svg>
`;
}

const found = house();
if (process.argv.includes('--draw')) writeFileSync(join(PROJECT, 'docs', 'architecture.svg'), draw(found));
if (process.argv.includes('--check')) {
  const all = faults(found);
  for (const fault of all) console.error(fault);
  process.exit(all.length > 0 ? 1 : 0);
}
console.log(
  '| package | lines | rooms | with one file | circles | files over 300 | functions over 100 | branch on a kind | comment to code |',
);
console.log('|---|---|---|---|---|---|---|---|---|');
for (const p of found)
  console.log(
    `| ${p.name} | ${p.lines} | ${p.rooms} | ${p.single} | ${p.circles.map((c) => c.length).join(', ') || 0} | ${p.long.length} | ${p.functions.length} | ${p.branching.length} | ${p.ratio.toFixed(2)} |`,
  );
if (process.argv.includes('--names'))
  for (const p of found) {
    for (const circle of p.circles) console.log(`circle in ${p.name}: ${circle.join(', ')}`);
    for (const line of [...p.long, ...p.functions, ...p.branching.map((f) => `branches: ${f}`)]) console.log(line);
  }
