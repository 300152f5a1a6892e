import type { Person } from '@careful-seam/contract/api/messages';
import { canonicalText, sha256Hex } from '@careful-seam/core/log/chain';
import { photosNeeded } from '@careful-seam/core/log/photosNeeded';
import { RuleBook } from '@careful-seam/core/rules/ruleBook';
import { type ImportAnswer, SHOWERS_FORMAT_VERSION, type ShowersFile } from '@careful-seam/files/showersFile';
import { type DataSource, In } from 'typeorm';
import { firmKey, recordIsSigned, signRecord } from '../firm/firmKey';
import { appendEntries, readText } from '../ledger/appendEntries';
import { keepPhoto, readPhoto } from '../photos/photoStore';
import { Refusal } from '../refusals/refusal';
import { loadShower } from '../showers/loadShower';
import type { ShowerWithHead } from '../showers/showerRows';
import { RuleBookEntity } from '../store/entities/firm';
import { CrewEntity } from '../store/entities/people';
import { PhotoEntity } from '../store/entities/pictures';
import { EntryEntity, ShowerEntity } from '../store/entities/showers';

/** The pictures that entries name. */
async function picturesOf(
  store: DataSource,
  folder: string,
  hashes: readonly string[],
): Promise<ShowersFile['pictures']> {
  const known = await store.getRepository(PhotoEntity).findBy({ hash: In([...hashes]) });
  const found: ShowersFile['pictures'] = [];
  for (const { hash, mime } of known) {
    const bytes = await readPhoto(folder, hash).catch(() => null);
    if (bytes) found.push({ hash, mime, base64: bytes.toString('base64') });
  }
  return found;
}

/** Showers with everything they rest on, as one file. `job` names it when it holds a whole job. */
export async function writeShowersFile(
  store: DataSource,
  folder: string,
  rows: readonly ShowerWithHead[],
  job: string | null,
  now: Date,
): Promise<ShowersFile> {
  const loaded = [];
  for (const row of rows) loaded.push(await loadShower(store, row));
  const pinned = new Set(
    loaded.flatMap((l) =>
      l.entries.flatMap((e) => (e.kind === 'rules-pinned' ? [`${e.body.ruleBook}@${e.body.version}`] : [])),
    ),
  );
  const books = await store.getRepository(RuleBookEntity).find();
  // A shower from elsewhere takes that firm's books with it.
  const origins = new Set(rows.map((r) => r.bookOrigin));
  const chosen = new Map<string, (typeof books)[number]>();
  for (const book of books) {
    const key = `${book.id}@${book.version}`;
    if (!pinned.has(key) || !(book.origin === '' || origins.has(book.origin))) continue;
    if (book.origin !== '' || !chosen.has(key)) chosen.set(key, book);
  }
  const crews = await store.getRepository(CrewEntity).findBy({ id: In([...new Set(rows.map((r) => r.crewId))]) });
  const hashes = [...new Set(loaded.flatMap((l) => photosNeeded(l.entries)))];
  const file: Omit<ShowersFile, 'firmSignature'> = {
    format: 'careful-seam-showers',
    formatVersion: SHOWERS_FORMAT_VERSION,
    madeAt: now.toISOString(),
    job,
    crews: crews.map(({ id, name }) => ({ id, name })),
    ruleBooks: [...chosen.values()].map((b) => RuleBook.parse(b.data)),
    showers: loaded.map(({ row, rows: entries }) => ({
      id: row.id,
      name: row.name,
      job: row.job,
      crewId: row.crewId,
      entries: entries.map(({ text, hash }) => ({ text, hash })),
    })),
    pictures: await picturesOf(store, folder, hashes),
  };
  const key = await firmKey(store, now);
  return {
    ...file,
    firmSignature: { algorithm: 'Ed25519', publicKey: key.publicKey, signature: signRecord(file, key) },
  };
}

/** Looks at everything before anything is written: hashes, the shower each entry belongs to, ids already taken. */
async function checkFile(store: DataSource, file: ShowersFile): Promise<void> {
  for (const [s, shower] of file.showers.entries()) {
    const ids: string[] = [];
    for (const [i, { text, hash }] of shower.entries.entries()) {
      const field = `showers.${s}.entries.${i}`;
      if (sha256Hex(text) !== hash)
        throw new Refusal('file-entry-changed', field, { entry: i + 1, shower: shower.name });
      const entry = readText(text);
      if (entry.showerId !== shower.id)
        throw new Refusal('file-entry-of-another', field, { entry: i + 1, shower: shower.name });
      ids.push(entry.id);
    }
    const stored = await store.getRepository(EntryEntity).findBy({ showerId: shower.id, id: In(ids) });
    const hashOf = new Map(shower.entries.map((e, i) => [ids[i], e.hash]));
    const other = stored.find((row) => row.hash !== hashOf.get(row.id));
    if (other) throw new Refusal('file-id-taken', `showers.${s}`, { shower: shower.name });
  }
}

/** Whose file it is: the key that signed it, else what its books say, so that two firms' books never mix. */
function originOf(file: ShowersFile): string {
  return sha256Hex(file.firmSignature?.publicKey.trim() ?? canonicalText(file.ruleBooks)).slice(0, 32);
}

/** True for a file that this very firm signed and nobody changed since. */
function isOwnFile(file: ShowersFile, ownKey: string): boolean {
  const { firmSignature, ...rest } = file;
  if (!firmSignature || firmSignature.publicKey.trim() !== ownKey.trim()) return false;
  return recordIsSigned(rest, firmSignature.signature, ownKey);
}

/**
 * Takes in the rule books that the firm has not. One of its own id and version but other content is another firm's: it is kept
 * beside, under that firm's origin, and never becomes the newest. Gives how many were added, and whether any is foreign.
 */
async function takeRuleBooks(
  store: DataSource,
  file: ShowersFile,
  isOwn: boolean,
): Promise<{ added: number; isForeign: boolean }> {
  const books = store.getRepository(RuleBookEntity);
  const foreign = originOf(file);
  let added = 0;
  let isForeign = false;
  for (const book of file.ruleBooks) {
    const { id, version } = book;
    const same = (row: { data: unknown } | null) =>
      row !== null && canonicalText(RuleBook.parse(row.data)) === canonicalText(book);
    if (same(await books.findOneBy({ origin: '', id, version }))) continue;
    const origin = isOwn ? '' : foreign;
    const known = await books.findOneBy({ origin, id, version });
    if (known && !same(known)) throw new Refusal('file-book-taken', 'ruleBooks', { book: book.title, version });
    isForeign ||= !isOwn;
    if (known) continue;
    await books.insert({ origin, id, version, data: book as object });
    added += 1;
  }
  return { added, isForeign };
}

/** Who takes a file in, and where it lies unpacked. */
export interface Importing {
  /** Who asks. */
  person: Person;
  /** Where it was unpacked. */
  folder: string;
  /** The moment it is asked at. */
  now: Date;
}

/** Takes a file of showers in. Entries keep their ids, authors and chains; what is here already is left as it is. */
export async function readShowersFile(
  store: DataSource,
  file: ShowersFile,
  { person, folder, now }: Importing,
): Promise<ImportAnswer> {
  await checkFile(store, file);
  const proved = isOwnFile(file, (await firmKey(store, now)).publicKey);
  const { added: ruleBooks, isForeign } = await takeRuleBooks(store, file, proved);
  const crews = store.getRepository(CrewEntity);
  for (const crew of file.crews)
    if (!(await crews.findOneBy({ id: crew.id }))) await crews.insert({ ...crew, into: null });
  let pictures = 0;
  for (const { hash, base64 } of file.pictures) {
    const known = await store.getRepository(PhotoEntity).findOneBy({ hash });
    if (known) continue;
    await keepPhoto(store, folder, hash, Buffer.from(base64, 'base64'), now);
    pictures += 1;
  }
  const showers: ImportAnswer['showers'] = [];
  for (const shower of file.showers) {
    const before = await store.getRepository(EntryEntity).countBy({ showerId: shower.id });
    const texts = shower.entries.map((e) => e.text);
    const answer = await appendEntries(store, shower.id, texts, { person, now, skewMs: 0, importing: true, proved });
    if (answer.refused) throw Refusal.of(answer.refused);
    if (isForeign && before === 0)
      await store.getRepository(ShowerEntity).update({ id: shower.id }, { bookOrigin: originOf(file) });
    const after = await store.getRepository(EntryEntity).countBy({ showerId: shower.id });
    showers.push({ id: shower.id, name: shower.name, added: after - before, known: texts.length - (after - before) });
  }
  return { showers, pictures, ruleBooks, proved };
}
