import type { Person, PulledEntry, PushAnswer } from '@careful-seam/contract/api/messages';
import type { Body, EntryKind } from '@careful-seam/core/log/bodies';
import { type Entry, readBody } from '@careful-seam/core/log/entry';
import type { Arrivals } from '@careful-seam/core/log/state';
import { type ChainEnd, writeEntry } from '@careful-seam/core/log/writeEntry';
import { ApiError } from './api';
import { type Database, deviceOf, marked, noteWanted, readKept } from './database';
import { readStored } from './readStored';
import { emptyShower, type StoredEntry } from './stored';

/** What the outbox needs from outside: ids and the clock. */
export interface Ports {
  /** An id that nobody else makes. */
  newId: () => string;
  /** The clock of this tablet, ms since 1970. */
  nowMs: () => number;
  /** Minutes that its local time is ahead of UTC. */
  offsetMinutes: () => number;
}

/** What is to be written as an entry. */
export interface Writing<K extends EntryKind> {
  /** The shower that it is written to. */
  showerId: string;
  /** Which kind of entry. */
  kind: K;
  /** What it says. */
  body: Body<K>;
  /** Who writes it. */
  person: Person;
  /** The drawing that it speaks of. */
  geometryVersion: number;
  /** Chosen beforehand when another entry of the same writing points to it. */
  id?: string;
}

/** The later of two places in the order. */
const later = (a: string | null, b: string): string => (a === null || b > a ? b : a);

/**
 * Appends entries to this tablet's chain in one transaction: all of them are kept, or none; what they were typed as, by the key of its
 * draft, goes with it, so that a tablet that dies in that moment has either. An entry that is not valid is refused by its field.
 */
export async function append(
  db: Database,
  ports: Ports,
  writings: readonly Writing<EntryKind>[],
  typedAs: string | null = null,
): Promise<StoredEntry[]> {
  const { showerId, person } = writings[0]!;
  // What can't be read back is never sealed: the server would refuse it, and everything written after it.
  // What is sealed is what was read: without the blanks at its ends, which would not be kept.
  const bodies = writings.map(({ kind, body }) => {
    const read = readBody(kind, body);
    if (!read.ok) throw new ApiError(read.problem);
    return read.value;
  });
  const { clockOffMs } = await readKept(db);
  const deviceId = await deviceOf(db, person.id, ports.newId);
  // Strict: what a person saw kept is on the disk, should the tablet lose its power in the next moment.
  const tx = db.transaction(['entries', 'showers', 'drafts'], 'readwrite', { durability: 'strict' });
  const shower = (await tx.objectStore('showers').get(showerId)) ?? emptyShower(showerId);
  let end: ChainEnd = {
    ...(shower.chains[person.id] ?? { deviceId, deviceSeq: 0, prevDeviceHash: null }),
    lastOrderAt: shower.lastOrderAt,
  };
  const stored: StoredEntry[] = [];
  for (const [i, { kind, geometryVersion, id }] of writings.entries()) {
    const author = { id: person.id, name: person.name, role: person.role };
    const written = writeEntry(
      {
        id: id ?? ports.newId(),
        showerId,
        kind,
        body: bodies[i]!,
        author,
        geometryVersion,
        nowMs: ports.nowMs() + clockOffMs,
        offsetMinutes: ports.offsetMinutes(),
      },
      end,
    );
    const { entry, text, hash } = written.sealed;
    end = written.end;
    stored.push({
      id: entry.id,
      showerId,
      authorId: person.id,
      deviceId: entry.deviceId,
      deviceSeq: entry.deviceSeq,
      text,
      hash,
      ledgerSeq: null,
      waits: 1,
      refused: null,
    });
  }
  for (const entry of stored) await tx.objectStore('entries').put(entry);
  if (typedAs !== null) await tx.objectStore('drafts').delete(typedAs);
  await tx
    .objectStore('showers')
    .put(marked({ ...shower, lastOrderAt: end.lastOrderAt, chains: { ...shower.chains, [person.id]: end } }));
  await tx.done;
  return stored;
}

/** All entries of a shower on this tablet. */
export async function entriesOf(db: Database, showerId: string): Promise<StoredEntry[]> {
  return db.getAllFromIndex('entries', 'byShower', showerId);
}

/** Entries of a shower that the server has not acknowledged, whoever wrote them; nothing else is read for it. */
export async function unsentOf(db: Database, showerId: string): Promise<StoredEntry[]> {
  return (await db.getAllFromIndex('entries', 'byWaiting')).filter((e) => e.showerId === showerId);
}

/** How the entries came, for the fold; what was not sent yet is by this tablet's clock, off by what the last push told. */
export function arrivalsOf(entries: readonly StoredEntry[], skewMs: number): Arrivals {
  return new Map(entries.map((e) => [e.id, e.ledgerSeq === null ? arrivalOf(e, skewMs) : rememberedArrival(e)]));
}

/** How an entry came, with what its clock was off by, ms. */
const arrivalOf = ({ receivedAt, imported }: StoredEntry, skewMs: number) => ({
  skewMs,
  receivedAtMs: receivedAt === undefined ? null : Date.parse(receivedAt),
  imported: imported ?? false,
});

/** How an entry came that the server has, by the entry as it was read from the store: it is never changed there. */
const arrived = new WeakMap<StoredEntry, ReturnType<typeof arrivalOf>>();

/** The same object for the same row, so that a fold knows what it has seen. */
function rememberedArrival(e: StoredEntry): ReturnType<typeof arrivalOf> {
  const arrival = arrived.get(e) ?? arrivalOf(e, e.skewMs ?? 0);
  arrived.set(e, arrival);
  return arrival;
}

/** Showers with something that the server has not acknowledged. */
export async function showersWaiting(db: Database): Promise<string[]> {
  return [...new Set((await db.getAllFromIndex('entries', 'byWaiting')).map((e) => e.showerId))];
}

/** A signature goes only with its password, through the signing form. */
const isSignature = (e: StoredEntry): boolean => readStored(e)?.kind === 'record-signed';

/** A signature that was not given within this was broken off, ms: the form, or the tablet, was closed over it. */
const SIGNING_MS = 2 * 60_000;

/** A signature of this person that was sealed and never given: it must not hold back what was written after it. */
export function brokenSignature(entries: readonly StoredEntry[], personId: string, nowMs: number): StoredEntry | null {
  const left = entries.find((e) => e.ledgerSeq === null && e.authorId === personId && !e.aside && isSignature(e));
  if (!left) return null;
  const isRefused = left.refused !== null;
  return isRefused || nowMs - Date.parse(readStored(left)!.observedAt) > SIGNING_MS ? left : null;
}

/** Entries of one person that the server has not acknowledged, in chain order; refused ones stop their chain. */
export function waiting(entries: readonly StoredEntry[], personId: string): StoredEntry[] {
  const mine = entries
    .filter((e) => e.ledgerSeq === null && e.authorId === personId && !e.aside)
    .sort((a, b) => a.deviceSeq - b.deviceSeq);
  const stop = mine.findIndex((e) => e.refused !== null || isSignature(e));
  return stop < 0 ? mine : mine.slice(0, stop);
}

/** Refusals that time heals: what is missing comes from another tablet, or from an earlier entry. */
const PASSING = new Set(['shower-not-sent-first']);

/**
 * Writes down what the server said of a push to one shower; `sent` is what was pushed, as it was then. Where the places
 * given follow on what this tablet has heard, nothing needs to be pulled. An entry that was sealed anew meanwhile (by
 * another window that healed the chain) is not the one that was taken: it is left for the pull to replace.
 */
export async function acknowledge(
  db: Database,
  showerId: string,
  answer: PushAnswer,
  sent: readonly Pick<StoredEntry, 'id' | 'hash'>[],
): Promise<void> {
  const hashes = new Map(sent.map((e) => [e.id, e.hash]));
  const tx = db.transaction(['entries', 'showers'], 'readwrite');
  const shower = await tx.objectStore('showers').get(showerId);
  let { cursor, headHash } = shower ?? emptyShower(showerId);
  for (const taken of answer.taken) {
    const entry = await tx.objectStore('entries').get([showerId, taken.id]);
    if (entry?.hash !== hashes.get(taken.id) || !entry) continue;
    const { waits: _, again: __, ...acknowledged } = entry;
    const { ledgerSeq, receivedAt } = taken;
    const came = { ledgerSeq, receivedAt, skewMs: answer.skewMs };
    await tx.objectStore('entries').put({ ...acknowledged, ...came, refused: null });
    if (taken.ledgerSeq === cursor + 1) {
      cursor = taken.ledgerSeq;
      headHash = taken.ledgerHash;
    }
  }
  if (shower) await tx.objectStore('showers').put(marked({ ...shower, cursor, headHash }));
  if (answer.refused && !PASSING.has(answer.refused.code)) {
    const entry = await tx.objectStore('entries').get([showerId, answer.refused.id]);
    const { code, field, message, values } = answer.refused;
    if (entry && entry.ledgerSeq === null && entry.hash === hashes.get(entry.id))
      await tx.objectStore('entries').put({ ...entry, refused: { code, field, message, values } });
  }
  await tx.done;
}

/** Takes the last entry of a chain back out of the tablet; only ever for one that the server was never given. */
export async function takeBack(db: Database, entry: StoredEntry): Promise<void> {
  const tx = db.transaction(['entries', 'showers'], 'readwrite');
  const shower = await tx.objectStore('showers').get(entry.showerId);
  const end = shower?.chains[entry.authorId];
  if (shower && end?.deviceSeq === entry.deviceSeq) {
    const prevDeviceHash = readStored(entry)?.prevDeviceHash ?? null;
    const chains = { ...shower.chains, [entry.authorId]: { ...end, deviceSeq: entry.deviceSeq - 1, prevDeviceHash } };
    await tx.objectStore('entries').delete([entry.showerId, entry.id]);
    await tx.objectStore('showers').put(marked({ ...shower, chains }));
  }
  await tx.done;
}

/** Entries of one shower as the server gave them. */
export interface Pulled {
  /** The shower. */
  id: string;
  /** As the server gave them, in its order. */
  entries: readonly PulledEntry[];
}

/** Takes in entries pulled from the server: new ones are added, own ones acknowledged; the clock moves on. */
export const takeIn = (db: Database, id: string, entries: readonly PulledEntry[]): Promise<void> =>
  takeInAll(db, [{ id, entries }]);

/**
 * Takes in what was pulled of several showers. All in one transaction, none waiting for the one before it; relaxed, since what a
 * tablet loses of it with its power the server still has.
 */
export async function takeInAll(db: Database, pulled: readonly Pulled[]): Promise<void> {
  if (pulled.every(({ entries }) => entries.length === 0)) return;
  const tx = db.transaction(['entries', 'showers', 'wanted'], 'readwrite', { durability: 'relaxed' });
  const [entries, showers, wanted] = [tx.objectStore('entries'), tx.objectStore('showers'), tx.objectStore('wanted')];
  for (const { id: showerId, entries: came } of pulled) {
    const shower = (await showers.get(showerId)) ?? emptyShower(showerId);
    for (const { text, hash, ledgerSeq, ledgerHash, receivedAt, skewMs = 0, imported = false } of came) {
      const entry = JSON.parse(text) as Entry;
      void entries.put({
        id: entry.id,
        showerId,
        authorId: entry.author.id,
        deviceId: entry.deviceId,
        deviceSeq: entry.deviceSeq,
        text,
        hash,
        ledgerSeq,
        receivedAt,
        skewMs,
        ...(imported ? { imported } : {}),
        refused: null,
      });
      noteWanted(wanted, entry);
      shower.lastOrderAt = later(shower.lastOrderAt, entry.orderAt);
      if (ledgerSeq > shower.cursor) {
        shower.cursor = ledgerSeq;
        shower.headHash = ledgerHash;
      }
    }
    void showers.put(marked(shower));
  }
  await tx.done;
}
