import type { Person } from '@careful-seam/contract/api/messages';
import type { EntryKind } from '@careful-seam/core/log/bodies';
import { canonicalText, sha256Hex } from '@careful-seam/core/log/chain';
import type { Entry } from '@careful-seam/core/log/entry';
import { foldShower } from '@careful-seam/core/proof/fold/foldShower';
import { sampleShower } from '@careful-seam/core/tests/sampleShower';
import { BOOK, releaseBody } from '@careful-seam/core/tests/sampleTablet';
import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';
import { type Server, serverOver } from '../tablet/api';
import { type Database, openDatabase } from '../tablet/database';
import { append, entriesOf, type Ports, type Writing } from '../tablet/outbox';
import { sendPictures } from '../tablet/pictures';
import { syncOnce } from '../tablet/sync';
import { type Backup, responseOf, SimulatedServer } from './simulatedServer';

const HOUR_MS = 3_600_000;
const START_MS = 1_760_000_000_000;
const SHOWERS = ['11111111-1111-4111-8111-111111111111', '22222222-2222-4222-8222-222222222222'];
const SEAM = 'floor-wall|floor|wall:back';
const PEOPLE: Person[] = ['ada', 'bo', 'cy', 'di'].map((id) => ({ id, name: id, role: 'inspector', crewId: null }));
/** Rounds after which a quiet network must have brought everything everywhere. */
const SETTLING_ROUNDS = 8;

/** What one run did and what was wrong at its end; `problems` must be empty. */
export interface SimulationReport {
  seed: number;
  devices: number;
  typed: number;
  requests: number;
  lost: number;
  crashes: number;
  restores: number;
  clockJumps: number;
  problems: string[];
}

interface Device {
  name: string;
  db: Database;
  /** Who uses it; a shared tablet has two. */
  people: Person[];
  skewMs: number;
  server: Server;
  /** Requests until this tablet loses its power, or Infinity. */
  powerLeft: number;
}

interface World {
  report: SimulationReport;
  server: SimulatedServer;
  devices: Device[];
  backups: Backup[];
  /** Everything that was typed: entry id → its shower and what it says. */
  typed: Map<string, { showerId: string; says: string; author: string }>;
  nowMs: number;
  quiet: boolean;
  ids: number;
  pick: (below: number) => number;
}

const saysOf = (entry: Entry): string => canonicalText([entry.kind, entry.body, entry.author, entry.orderAt]);

/** A random whole number from 0, with the generator warmed up: small seeds begin alike otherwise. */
function picker(seed: number): (below: number) => number {
  const rng = xoroshiro128plus(seed);
  for (let i = 0; i < 20; i += 1) rng.next();
  return (below) => Math.abs(rng.next()) % below;
}

/** Lets everything else that is under way take a turn. */
const later = () => new Promise<void>((done) => setTimeout(done, 0));

/** A wire that drops requests, loses answers, repeats, and is slow, until the world is quiet. */
function wireOf(world: World, device: () => Device): Server {
  return serverOver(async (path, init) => {
    const { pick, report, server } = world;
    report.requests += 1;
    for (let ticks = pick(3); ticks > 0; ticks -= 1) await later();
    const me = device();
    me.powerLeft -= 1;
    if (me.powerLeft <= 0) me.db.close();
    const fate = world.quiet ? 9 : pick(10);
    if (fate === 0) {
      report.lost += 1;
      throw new TypeError('lost on the way');
    }
    const answer = await server.handle(init.method!, path, init.body);
    if (fate === 1) await server.handle(init.method!, path, init.body);
    for (let ticks = pick(3); ticks > 0; ticks -= 1) await later();
    if (fate === 2) {
      report.lost += 1;
      throw new TypeError('the answer was lost');
    }
    // A long answer may break off anywhere.
    return responseOf(answer, fate === 3 ? pick(100) / 100 : 1);
  });
}

const portsOf = (world: World, device: Device): Ports => ({
  newId: () => {
    world.ids += 1;
    return `00000000-0000-4000-9000-${String(world.ids).padStart(12, '0')}`;
  },
  nowMs: () => Math.max(0, world.nowMs + device.skewMs),
  offsetMinutes: () => 0,
});

async function makeDevice(world: World, name: string, people: Person[]): Promise<Device> {
  const device = { name, people, skewMs: 0, powerLeft: Infinity } as Device;
  device.db = await openDatabase(name);
  device.server = wireOf(world, () => device);
  return device;
}

type Draft = { kind: EntryKind; body: unknown };

function reading(world: World): Draft {
  const valueMm = 30 + world.pick(50);
  const place = { element: SEAM, side: 'floor', lengthMm: 1524 };
  const body = {
    stage: 'membrane',
    check: 'lap',
    place,
    atMm: world.pick(1524),
    valueMm,
    typed: `${valueMm}`,
    instrument: 'tape',
  };
  return { kind: 'reading', body };
}

/** Something that a person would enter now, on what this tablet knows. */
function draft(world: World, known: readonly Entry[]): Draft {
  const { pick } = world;
  const place = { element: SEAM, fromMm: 0, toMm: 100 + pick(900), lengthMm: 1524 };
  const mine = known.filter((e) => e.kind === 'reading' || e.kind === 'note');
  switch (pick(9)) {
    case 0:
      return {
        kind: 'look',
        body: { stage: 'membrane', checks: ['lap'], places: [place], answer: pick(3) ? 'ok' : 'defect' },
      };
    case 1:
      return {
        kind: 'defect-found',
        body: { stage: 'membrane', place, kind: 'short-lap', severity: 'stop', words: 'x', photos: [] },
      };
    case 2:
      return { kind: 'redo', body: { stage: 'membrane', places: [place], reason: 'again' } };
    case 3:
      return { kind: 'stage-released', body: releaseBody('membrane', pick(2) ? 'seen' : undefined) };
    case 4:
      return mine.length > 0
        ? { kind: 'correction', body: { target: mine[pick(mine.length)]!.id, action: 'withdraw' } }
        : { kind: 'note', body: { words: 'nothing to correct' } };
    case 5:
      return { kind: 'note', body: { words: `n${world.ids}` } };
    default:
      return reading(world);
  }
}

async function type(world: World, device: Device): Promise<void> {
  const person = device.people[world.pick(device.people.length)]!;
  const showerId = SHOWERS[world.pick(SHOWERS.length)]!;
  const known = (await entriesOf(device.db, showerId)).map((e) => JSON.parse(e.text) as Entry);
  if (known.length === 0) return;
  const drafts = Array.from({ length: 1 + world.pick(3) }, () => draft(world, known));
  const stored = await append(
    device.db,
    portsOf(world, device),
    drafts.map((d) => ({ ...d, showerId, person, geometryVersion: 1 }) as Writing<EntryKind>),
  );
  for (const e of stored) {
    world.typed.set(e.id, { showerId, says: saysOf(JSON.parse(e.text) as Entry), author: person.id });
    world.report.typed += 1;
  }
}

const round = (world: World, device: Device, person: Person) =>
  syncOnce(device.db, person.id, { server: device.server, ports: portsOf(world, device) });

/** One round on one tablet; it may lose its power in the middle and starts again with what it had kept. */
async function syncOrCrash(world: World, device: Device): Promise<void> {
  const person = device.people[world.pick(device.people.length)]!;
  if (world.pick(5) === 0) device.powerLeft = 1 + world.pick(8);
  // Two windows of the same application on one tablet.
  const windows = world.pick(6) === 0 ? 2 : 1;
  await Promise.all(Array.from({ length: windows }, () => round(world, device, person).catch(() => undefined)));
  if (world.pick(4) === 0) await sendPictures(device.db, device.server).catch(() => undefined);
  if (device.powerLeft > 0 && device.powerLeft !== Infinity) device.powerLeft = Infinity;
  if (device.powerLeft > 0) return;
  world.report.crashes += 1;
  device.db = await openDatabase(device.name);
  device.powerLeft = Infinity;
}

/** Somebody puts a tablet's own backup on another one: two tablets with the same device numbers. */
async function copyTablet(world: World, from: Device): Promise<void> {
  if (world.devices.length >= 5) return;
  const copy = await makeDevice(world, `${from.name}-copy${world.devices.length}`, from.people);
  for (const store of ['entries', 'showers', 'photos', 'small'] as const)
    for (const value of await from.db.getAll(store)) await copy.db.put(store, value as never);
  for (const store of ['books', 'kept'] as const)
    for (const key of await from.db.getAllKeys(store))
      await copy.db.put(store, (await from.db.get(store, key)) as never, key);
  world.devices.push(copy);
  world.report.devices += 1;
}

async function step(world: World): Promise<void> {
  const { pick, devices, server, report } = world;
  world.nowMs += pick(20) * 60_000;
  const device = devices[pick(devices.length)]!;
  const what = pick(20);
  if (what < 9) return type(world, device);
  if (what < 15) return syncOrCrash(world, device);
  if (what === 16) return copyTablet(world, device);
  if (what === 15) {
    await Promise.all(devices.map((d) => syncOrCrash(world, d)));
    return;
  }
  if (what === 17) {
    world.backups.push(server.backup());
    return;
  }
  if (what === 18) {
    device.skewMs = (pick(13) - 6) * HOUR_MS;
    report.clockJumps += 1;
    return;
  }
  if (pick(3) === 0 && world.backups.length > 0) {
    server.restore(world.backups[pick(world.backups.length)]!);
    report.restores += 1;
  }
}

async function begin(world: World): Promise<void> {
  const [first] = world.devices;
  for (const showerId of SHOWERS) {
    const drafts: Draft[] = [
      { kind: 'shower-created', body: { name: 'n', job: 'j', crewId: 'heron', timeZone: 'UTC' } },
      { kind: 'geometry-set', body: { version: 1, geometry: sampleShower() } },
      { kind: 'rules-pinned', body: { ruleBook: BOOK.id, version: BOOK.version, method: 'bonded-sheet' } },
    ];
    const person = first!.people[0]!;
    await append(
      first!.db,
      portsOf(world, first!),
      drafts.map((d) => ({ ...d, showerId, person, geometryVersion: 1 }) as Writing<EntryKind>),
    );
  }
}

/** Everything a fold holds as one text: maps and sets written out in their order. */
function digestOf(entries: readonly Entry[]): string {
  const state = foldShower(entries, () => BOOK);
  const plain = JSON.stringify(state, (key, value: unknown) => {
    if (key === 'geometry' || key === 'rules' || key === 'requirements' || key === 'seamById') return undefined;
    if (value instanceof Map) return [...value];
    return value instanceof Set ? [...value] : value;
  });
  return sha256Hex(plain);
}

/** Lets the network be good until nothing moves, then says what is not as it must be. */
async function settle(world: World): Promise<void> {
  const { devices, server, typed, report } = world;
  world.quiet = true;
  for (let k = 0; k < SETTLING_ROUNDS; k += 1)
    for (const device of devices) for (const person of device.people) await round(world, device, person);
  for (const device of devices) await sendPictures(device.db, device.server);
  for (const [id, { showerId, says, author }] of typed) {
    const places = (server.ledgers.get(showerId)?.places ?? []).filter((p) => p.id === id);
    if (places.length !== 1)
      report.problems.push(`entry ${id} of ${author} stands ${places.length} times in the ledger`);
    else if (saysOf(JSON.parse(places[0]!.text) as Entry) !== says)
      report.problems.push(`entry ${id} says something else`);
  }
  for (const showerId of SHOWERS) {
    const digests = new Set<string>();
    for (const device of devices) {
      const stored = await entriesOf(device.db, showerId);
      const waiting = stored.filter((e) => e.ledgerSeq === null);
      if (waiting.length > 0)
        report.problems.push(
          `${device.name} still holds ${waiting.length}: ${waiting[0]!.refused?.message ?? 'never sent'}`,
        );
      digests.add(digestOf(stored.map((e) => JSON.parse(e.text) as Entry)));
    }
    if (digests.size !== 1) report.problems.push(`${digests.size} different states of shower ${showerId}`);
  }
  for (const device of devices) {
    for (const photo of await device.db.getAll('photos'))
      if (!server.photos.has(photo.hash)) report.problems.push(`picture ${photo.hash} never arrived`);
    device.db.close();
  }
}

async function putPictures(world: World): Promise<void> {
  for (const [k, device] of world.devices.entries()) {
    const hash = String(k).repeat(64);
    await device.db.put('photos', {
      hash,
      blob: new Blob(['x'], { type: 'image/jpeg' }),
      widthPx: 1,
      heightPx: 1,
      sent: false,
    });
  }
}

/**
 * Some tablets, one of them shared, enter things on two showers over a network that drops, repeats and delays, with
 * clocks that are wrong, tablets that lose their power in the middle of a round, and a server that is restored to an
 * older backup. Then the network is good for a while: everything typed must stand in the ledger exactly once, no
 * tablet may hold anything back, and all must show the same state. The same seed gives the same run.
 */
export async function simulateSync(seed: number, steps = 60): Promise<SimulationReport> {
  const report = {
    seed,
    devices: 0,
    typed: 0,
    requests: 0,
    lost: 0,
    crashes: 0,
    restores: 0,
    clockJumps: 0,
    problems: [],
  };
  const pick = picker(seed);
  const world: World = {
    report,
    server: new SimulatedServer(),
    devices: [],
    backups: [],
    typed: new Map(),
    nowMs: START_MS,
    quiet: true,
    ids: 0,
    pick,
  };
  const count = 2 + pick(3);
  for (let k = 0; k < count; k += 1) {
    const people = k === 1 ? [PEOPLE[1]!, PEOPLE[3]!] : [PEOPLE[k]!];
    world.devices.push(await makeDevice(world, `simulation-${seed}-${k}-${START_MS}`, people));
  }
  report.devices = count;
  world.backups.push(world.server.backup());
  await begin(world);
  for (const device of world.devices) await round(world, device, device.people[0]!);
  await putPictures(world);
  world.quiet = false;
  for (let k = 0; k < steps; k += 1) await step(world);
  await settle(world);
  return report;
}
