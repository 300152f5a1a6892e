import type { Person } from '@careful-seam/contract/api/messages';
import { type ImportAnswer, SHOWERS_FORMAT_VERSION, type ShowersFile } from '@careful-seam/contract/files/showersFile';
import { canonicalText, sha256Hex } from '@careful-seam/core/entries/chain';
import { photosNeeded } from '@careful-seam/core/entries/photosNeeded';
import { RuleBook } from '@careful-seam/core/rules/ruleBook';
import { type DataSource, In } from 'typeorm';
import { appendEntries, readText } from '../ledger/appendEntries';
import { Refusal } from '../people/refusal';
import { keepPhoto, readPhoto } from '../photos/photoStore';
import { loadShower } from '../showers/loadShower';
import { CrewEntity, EntryEntity, PhotoEntity, RuleBookEntity, type ShowerTableRow } from '../store/entities';

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
  rows: readonly ShowerTableRow[],
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
  const crews = await store.getRepository(CrewEntity).findBy({ id: In([...new Set(rows.map((r) => r.crewId))]) });
  const hashes = [...new Set(loaded.flatMap((l) => photosNeeded(l.entries)))];
  return {
    format: 'careful-seam-showers',
    formatVersion: SHOWERS_FORMAT_VERSION,
    madeAt: now.toISOString(),
    job,
    crews: crews.map(({ id, name }) => ({ id, name })),
    ruleBooks: books.filter((b) => pinned.has(`${b.id}@${b.version}`)).map((b) => RuleBook.parse(b.data)),
    showers: loaded.map(({ row, rows: entries }) => ({
      id: row.id,
      name: row.name,
      job: row.job,
      crewId: row.crewId,
      entries: entries.map(({ text, hash }) => ({ text, hash })),
    })),
    pictures: await picturesOf(store, folder, hashes),
  };
}

/** Looks at everything before anything is written: hashes, the shower each entry belongs to, ids already taken. */
async function checkFile(store: DataSource, file: ShowersFile): Promise<void> {
  for (const [s, shower] of file.showers.entries()) {
    const ids: string[] = [];
    for (const [i, { text, hash }] of shower.entries.entries()) {
      const field = `showers.${s}.entries.${i}`;
      if (sha256Hex(text) !== hash)
        throw new Refusal(
          'entry-invalid',
          field,
          `Entry ${i + 1} of ${shower.name} was changed: its hash does not fit.`,
        );
      const entry = readText(text);
      if (entry.showerId !== shower.id)
        throw new Refusal('entry-invalid', field, `Entry ${i + 1} of ${shower.name} belongs to another shower.`);
      ids.push(entry.id);
    }
    const stored = await store.getRepository(EntryEntity).findBy({ id: In(ids) });
    const hashOf = new Map(shower.entries.map((e, i) => [ids[i], e.hash]));
    const other = stored.find((row) => row.hash !== hashOf.get(row.id));
    if (other)
      throw new Refusal(
        'id-taken',
        `showers.${s}`,
        `${shower.name} has an entry whose id is taken by another one here. Nothing was taken in.`,
      );
  }
}

async function takeRuleBooks(store: DataSource, file: ShowersFile): Promise<number> {
  const books = store.getRepository(RuleBookEntity);
  let added = 0;
  for (const book of file.ruleBooks) {
    const known = await books.findOneBy({ id: book.id, version: book.version });
    if (known && canonicalText(RuleBook.parse(known.data)) !== canonicalText(book))
      throw new Refusal(
        'id-taken',
        'ruleBooks',
        `${book.title} (version ${book.version}) is another one here. Nothing was taken in.`,
      );
    if (known) continue;
    await books.insert({ id: book.id, version: book.version, data: book as object });
    added += 1;
  }
  return added;
}

export interface Importing {
  person: Person;
  folder: string;
  now: Date;
}

/** Takes a file of showers in. Entries keep their ids, authors and chains; what is here already is left as it is. */
export async function readShowersFile(
  store: DataSource,
  file: ShowersFile,
  { person, folder, now }: Importing,
): Promise<ImportAnswer> {
  await checkFile(store, file);
  const ruleBooks = await takeRuleBooks(store, file);
  const crews = store.getRepository(CrewEntity);
  for (const crew of file.crews) if (!(await crews.findOneBy({ id: crew.id }))) await crews.insert(crew);
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
    const answer = await appendEntries(store, shower.id, texts, { person, now, skewMs: 0, importing: true });
    if (answer.refused) throw new Refusal(answer.refused.code, answer.refused.field, answer.refused.message);
    const after = await store.getRepository(EntryEntity).countBy({ showerId: shower.id });
    showers.push({ id: shower.id, name: shower.name, added: after - before, known: texts.length - (after - before) });
  }
  return { showers, pictures, ruleBooks };
}
