// Invented showers of an invented firm, written as its people would write them, entry by entry.
import { sha256Hex } from '@careful-seam/core/log/chain';
import type { FindRuleBook } from '@careful-seam/core/proof/fold/foldShower';
import { drawSeamPicture } from '@careful-seam/instruments/simulatedCamera';
import { demoRuleBook } from './demoRuleBook';
import { dimensions, IN, type Size } from './demoSizes';
import { shootBirdbath } from './demoSurvey';
import { type DemoWriter, demoWriter, passStage, placeOf, release, workDone } from './writer';

/** Stages from the base to the water, in their order. */
const STAGES = ['base', 'boards', 'penetrations', 'curb', 'membrane', 'drain-tie-in'];

/** A shower of the demo. */
export interface DemoJob {
  /** What it is called on site. */
  name: string;
  /** The job that it belongs to. */
  job: string;
  /** The crew that builds it. */
  crew: 'heron' | 'otter' | 'wren';
  /** From a few lengths. */
  size: Omit<Size, 'name'>;
  /** The method; a bonded sheet without it. */
  method?: string;
}

/** Draws a shower and pins its rules. */
export function drawShower(w: DemoWriter, { name, job, crew, size, method = 'bonded-sheet' }: DemoJob): void {
  w.write('inspector', 'shower-created', { name, job, crewId: `crew-${crew}`, timeZone: 'America/Chicago' });
  w.write('inspector', 'geometry-set', { version: 1, geometry: dimensions({ name, ...size }) });
  const book = demoRuleBook();
  w.write('inspector', 'rules-pinned', { ruleBook: book.id, version: book.version, method, beginsAt: 'base' });
}

/** Builds and releases it up to a stage. */
export function climb(w: DemoWriter, crew: DemoJob['crew'], upTo: string, day: string): void {
  for (const stage of STAGES.slice(0, STAGES.indexOf(upTo))) {
    workDone(w, crew, stage, day);
    w.wait(40);
    passStage(w, 'inspector', stage);
    release(w, 'inspector', stage);
    w.wait(90);
  }
  workDone(w, crew, upTo, day);
  w.wait(30);
}

/** The foot of its back wall. */
const footOfBack = (w: DemoWriter): string =>
  w
    .state()
    .geometry!.model.seams.find((s) => s.kind === 'floor-wall' && Math.abs(s.points[0]![1] - s.points[1]![1]) < 1)!.id;

/** A short lap 14 in from the left end of the back wall's foot, with a picture of it. */
async function shortLap(w: DemoWriter): Promise<{ reading: string; element: string }> {
  const state = w.state();
  const element = footOfBack(w);
  const side = element.split('|').find((part) => part.startsWith('wall:'))!;
  const place = placeOf(state, element, side);
  const reading = w.write('inspector', 'reading', {
    stage: 'membrane',
    check: 'lap',
    place,
    atMm: 14 * IN,
    valueMm: 1.875 * IN,
    typed: '1 7/8',
    instrument: 'tape',
  });
  const bytes = await drawSeamPicture({
    caption: `${state.created?.body.name}: lap at 14 in from the left`,
    lapMm: 1.875 * IN,
    viewMm: 100,
  });
  const hash = sha256Hex(bytes);
  w.photos.push({ hash, bytes });
  const marks = [
    {
      kind: 'length' as const,
      points: [
        { x: 0.19, y: 0.56 },
        { x: 0.57, y: 0.56 },
      ],
      text: '1 7/8 in',
    },
  ];
  const about = placeOf(state, element, side, { fromMm: 11 * IN, toMm: 17 * IN });
  w.write('inspector', 'defect-found', {
    stage: 'membrane',
    place: about,
    kind: 'short-lap',
    severity: 'stop',
    words: 'Band slid off centre before it was bedded',
    photos: [{ hash, widthPx: 1280, heightPx: 960, marks }],
    about: reading,
  });
  return { reading, element };
}

/** A short lap that was cut out and made again. */
function redoLap(w: DemoWriter, reading: string, element: string): void {
  w.wait(60);
  const stretch = { fromMm: 10 * IN, toMm: 18 * IN };
  w.write('heron', 'defect-answered', { defect: reading, words: 'Cut out and banded again, 10 to 18 in', photos: [] });
  w.write('inspector', 'redo', {
    stage: 'membrane',
    places: [placeOf(w.state(), element, null, stretch)],
    reason: 'Band cut out and bedded again',
    defect: reading,
  });
  w.wait(25);
  const state = w.state();
  const [floor, wall] = element.split('|').slice(1) as [string, string];
  w.write('inspector', 'look', {
    stage: 'membrane',
    checks: ['lap', 'bond'],
    places: [placeOf(state, element, null, stretch)],
    answer: 'ok',
  });
  for (const side of [floor, wall]) {
    w.write('inspector', 'reading', {
      stage: 'membrane',
      check: 'lap',
      place: placeOf(state, element, side),
      atMm: 14 * IN,
      valueMm: 2.25 * IN,
      typed: '2 1/4',
      instrument: 'tape',
    });
  }
  w.write('inspector', 'defect-closed', {
    defect: reading,
    cause: { family: 'workmanship', confidence: 'admitted' },
    escape: { family: 'later' },
  });
}

/** The day after one. */
const dayAfter = (day: string): string => new Date(Date.parse(day) + 86_400_000).toISOString().slice(0, 10);

/** A corner that a pipe hides: the inspector asks for a deviation, and a manager has not decided yet. */
function askForCorner(w: DemoWriter): void {
  const state = w.state();
  const open = state.requirements.find((r) => r.check.id === 'corner-piece')!;
  w.write('inspector', 'deviation-asked', {
    stage: open.stage.key,
    check: open.check.id,
    place: placeOf(state, open.element),
    geometryVersion: state.geometry!.version,
    ruleVersion: state.rules!.book.version,
    verdict: 'unseen',
    reason: 'A riser stands before this corner; seen only from the side, sealed by hand',
  });
}

/** The second inspector finds a hollow in a base that is released already: its release is contested. */
function contestBase(w: DemoWriter): void {
  w.write('second', 'defect-found', {
    stage: 'base',
    place: { element: 'floor' },
    kind: 'hollow-tray',
    severity: 'fix',
    words: 'Sounds hollow by the left wall, a hand wide',
    photos: [],
  });
}

/** The showers, each in a state that a person meets on a day. */
export async function demoShowers(todayMs: number, find: FindRuleBook): Promise<DemoWriter[]> {
  const day = new Date(todayMs).toISOString().slice(0, 10);
  const make = (job: DemoJob, k: number): DemoWriter => {
    const w = demoWriter(`${job.job} ${job.name}`, todayMs - 30 * 3_600_000 + k * 600_000, 7 + k, find);
    drawShower(w, job);
    return w;
  };
  const house = 'Larkspur House';
  const row = 'Tannery Row';
  const short = make(
    { name: '3B hall', job: house, crew: 'heron', size: { widthIn: 60, depthIn: 36, drainIn: [30, 18] } },
    0,
  );
  climb(short, 'heron', 'membrane', day);
  passStage(short, 'inspector', 'membrane', { skip: (r) => r.check.id === 'lap' && r.element.includes('sheet-lap') });
  const given = await shortLap(short);
  short.write('inspector', 'defect-assigned', {
    defect: given.reading,
    crewId: 'crew-heron',
    due: dayAfter(day),
    dueAt: `${dayAfter(day)}T23:59:59.000Z`,
    words: 'Cut the band out from 10 to 18 in and bed a new one, centred',
  });

  const unseen = make(
    { name: '3C guest', job: house, crew: 'heron', size: { widthIn: 48, depthIn: 36, drainIn: [24, 18] } },
    1,
  );
  climb(unseen, 'heron', 'membrane', day);
  passStage(unseen, 'inspector', 'membrane', {
    skip: (r) =>
      r.element.startsWith('wall-wall') || r.element.startsWith('curb-wall') || r.element.startsWith('corner'),
  });
  unseen.wait(20);
  askForCorner(unseen);

  const released = make(
    { name: '14 loft', job: row, crew: 'otter', size: { widthIn: 60, depthIn: 32, drainIn: [30, 16] } },
    2,
  );
  climb(released, 'otter', 'drain-tie-in', day);
  passStage(released, 'inspector', 'drain-tie-in');
  release(released, 'inspector', 'drain-tie-in');

  const redone = make(
    { name: '16 ground', job: row, crew: 'heron', size: { widthIn: 54, depthIn: 36, drainIn: [27, 18] } },
    3,
  );
  climb(redone, 'heron', 'membrane', day);
  passStage(redone, 'inspector', 'membrane');
  const { reading, element } = await shortLap(redone);
  redoLap(redone, reading, element);

  const covered = make(
    {
      name: '1 wet corner',
      job: 'Quarry Steps',
      crew: 'wren',
      size: { widthIn: 48, depthIn: 42, drainIn: [24, 21], corner: true },
    },
    4,
  );
  climb(covered, 'wren', 'boards', day);
  passStage(covered, 'inspector', 'boards', { skip: (r) => r.check.id === 'board-joints' });
  covered.wait(120);
  workDone(covered, 'wren', 'membrane', day);

  const fresh = make(
    { name: 'B7', job: "Miller's Court", crew: 'otter', size: { widthIn: 60, depthIn: 36, drainIn: [30, 18] } },
    5,
  );
  workDone(fresh, 'otter', 'base', day);
  shootBirdbath(fresh);
  fresh.write('otter', 'look-requested', { stage: 'base', words: 'Bedded and level, please come before the boards' });

  const contested = make(
    { name: '18 annex', job: row, crew: 'otter', size: { widthIn: 42, depthIn: 36, drainIn: [21, 18] } },
    6,
  );
  climb(contested, 'otter', 'boards', day);
  contestBase(contested);
  return [short, unseen, released, redone, covered, fresh, contested];
}
