import type { FindRuleBook } from '@careful-seam/core/proof/fold/foldShower';
import { RuleBook } from '@careful-seam/core/rules/ruleBook';
import { type DataSource, MoreThan } from 'typeorm';
import { AnchorText, bookHash } from '../ledger/anchors';
import { pictureLook } from '../photos/photoStore';
import { picturesAt } from '../photos/picturesAt';
import { loadRuleBooks } from '../showers/ruleBooks';
import { RuleBookEntity } from '../store/entities/firm';
import { PhotoEntity, type PhotoRow } from '../store/entities/pictures';
import { EntryEntity } from '../store/entities/showers';
import { AnchorEntity } from '../store/entities/trust';
import { sha256 } from '../store/sha256';
import { type ShowerToVerify, verifyShower } from './verifyShower';

/** One thing that is not as it was written, named. */
export interface Finding {
  where: string;
  what: string;
}

export interface Verification {
  /** How many showers. */
  showers: number;
  /** How many entries. */
  entries: number;
  /** How many pictures. */
  photos: number;
  findings: Finding[];
}

export interface Verifying {
  /** Told now and then how far it is: showers and pictures done, of how many. */
  tell?: (done: number, of: number) => void;
  /** Only one of so many parts of the showers and pictures, counted from 0: several processes share the work. */
  part?: { k: number; of: number };
  /** Only showers whose head moved since then; whatever an anchor names is looked at in any case. */
  movedSince?: Date;
}

/** Showers and pictures read at a time. */
const PAGE = 200;

const SHOWERS = `SELECT s.id, s.name, s.job, s.crew_id AS "crewId", s.also_crews AS "alsoCrews", s.book_origin AS "bookOrigin",
    h.head_seq AS "headSeq", encode(h.head_hash, 'hex') AS "headHash", h.is_signed AS "isSigned"
  FROM shower s LEFT JOIN shower_head h ON h.shower_id = s.id
  WHERE s.id > $1 AND ($2::timestamptz IS NULL OR h.updated_at IS NULL OR h.updated_at >= $2) ORDER BY s.id LIMIT ${PAGE}`;
const BEFORE_ALL = '00000000-0000-0000-0000-000000000000';

/** Which of `of` parts a hash or an id belongs to. */
const partOf = (id: string, of: number): number => Number.parseInt(id.slice(0, 4), 16) % of;

/** Anchors that were changed, do not follow each other, or name a head that the ledger does not have, or a book that changed. */
async function anchorFaults(store: DataSource): Promise<Finding[]> {
  const findings: Finding[] = [];
  const books = new Map<string, string>();
  for (const b of await store.getRepository(RuleBookEntity).find())
    books.set(`${b.origin} ${b.id}@${b.version}`, bookHash(b.data));
  let previous: string | null = null;
  for (let seq = 0; ; ) {
    const rows = await store
      .getRepository(AnchorEntity)
      .find({ where: { seq: MoreThan(seq) }, order: { seq: 'ASC' }, take: PAGE });
    for (const row of rows) {
      findings.push(...(await oneAnchor(store, row, previous, books)));
      previous = row.hash;
      seq = row.seq;
    }
    if (rows.length < PAGE) return findings;
  }
}

function readAnchor(text: string): AnchorText | null {
  try {
    return AnchorText.parse(JSON.parse(text));
  } catch {
    return null;
  }
}

async function oneAnchor(
  store: DataSource,
  row: { seq: number; day: string; text: string; hash: string },
  previous: string | null,
  books: ReadonlyMap<string, string>,
): Promise<Finding[]> {
  const where = `anchor ${row.seq} of ${row.day}`;
  const read = readAnchor(row.text);
  if (!read || sha256(row.text) !== row.hash) return [{ where, what: 'its text does not have its hash' }];
  if (read.previous !== previous) return [{ where, what: 'it does not follow the anchor before it' }];
  const lost: { id: string }[] = await store.query(
    `SELECT a.head->>0 AS id FROM jsonb_array_elements($1::jsonb) AS a(head)
    LEFT JOIN entry e ON e.shower_id = (a.head->>0)::uuid AND e.ledger_seq = (a.head->>1)::int AND encode(e.ledger_hash, 'hex') = a.head->>2
    WHERE e.id IS NULL`,
    [JSON.stringify(read.heads)],
  );
  return [
    ...lost.map(({ id }) => ({ where, what: `the head it names of shower ${id} is not in the ledger` })),
    ...read.books
      .filter(([origin, id, version, hash]) => books.get(`${origin} ${id}@${version}`) !== hash)
      .map(([, id, version]) => ({ where, what: `the rule book ${id}, version ${version}, is not what it was` })),
  ];
}

/** Rule books that can't be read, or are not what their columns say. */
async function bookFaults(store: DataSource): Promise<Finding[]> {
  const rows = await store.getRepository(RuleBookEntity).find();
  return rows.flatMap(({ id, version, data }) => {
    const where = `rule book ${id}, version ${version}`;
    const read = RuleBook.safeParse(data);
    if (!read.success) return [{ where, what: 'it can not be read' }];
    return read.data.id === id && read.data.version === version ? [] : [{ where, what: 'it says that it is another' }];
  });
}

async function photoFaults(picturePlace: string, photo: PhotoRow): Promise<string[]> {
  const pictures = picturesAt(picturePlace);
  const bytes = await pictures.read(photo.hash).catch((error: Error) => error);
  // What can't be read now is not told to be lost.
  if (bytes instanceof Error) return [`can't be read at ${pictures.where(photo.hash)}: ${bytes.message}`];
  if (!bytes) return [`missing at ${pictures.where(photo.hash)}`];
  if (sha256(bytes) !== photo.hash || bytes.length !== photo.bytes) return ['its bytes do not have its hash'];
  const look = await pictureLook(bytes).catch(() => null);
  const isSame = look?.mime === photo.mime && look.widthPx === photo.widthPx && look.heightPx === photo.heightPx;
  return isSame ? [] : ['its row says another kind or size than its bytes'];
}

/**
 * Walks every entry, picture, rule book and anchor and names each one that is not as it was written. Reads a page at a time,
 * whatever the size of the firm. Never throws for what it reads: one bad row hides none of the others.
 */
export async function verifyLedger(
  store: DataSource,
  picturePlace: string,
  { tell, part = { k: 0, of: 1 }, movedSince }: Verifying = {},
): Promise<Verification> {
  const found: Verification = { showers: 0, entries: 0, photos: 0, findings: [] };
  const mine = (id: string) => partOf(id, part.of) === part.k;
  // In a database that was tampered with, a rule book may not even be readable.
  const find: (origin: string) => FindRuleBook = await loadRuleBooks(store).catch(() => () => () => null);
  const [{ n }] = await store.query('SELECT ((SELECT count(*) FROM shower) + (SELECT count(*) FROM photo))::int AS n');
  const of = Math.ceil(n / part.of);
  const told = () => tell?.(found.showers + found.photos, of);
  for (let after = BEFORE_ALL; ; ) {
    const page: ShowerToVerify[] = await store.query(SHOWERS, [after, movedSince ?? null]);
    for (const shower of page.filter((s) => mine(s.id))) {
      const rows = await store
        .getRepository(EntryEntity)
        .find({ where: { showerId: shower.id }, order: { ledgerSeq: 'ASC' } });
      found.findings.push(...verifyShower(shower, rows, find(shower.bookOrigin)));
      found.showers += 1;
      found.entries += rows.length;
    }
    told();
    if (page.length < PAGE) break;
    after = page.at(-1)!.id;
  }
  for (let after = ''; ; ) {
    const page = await store
      .getRepository(PhotoEntity)
      .find({ where: { hash: MoreThan(after) }, order: { hash: 'ASC' }, take: PAGE });
    for (const photo of page.filter((p) => mine(p.hash))) {
      for (const what of await photoFaults(picturePlace, photo))
        found.findings.push({ where: `picture ${photo.hash}`, what });
      found.photos += 1;
    }
    told();
    if (page.length < PAGE) break;
    after = page.at(-1)!.hash;
  }
  if (part.k === 0) found.findings.push(...(await wholeFaults(store)));
  return found;
}

/** What belongs to no single shower. */
async function wholeFaults(store: DataSource): Promise<Finding[]> {
  const orphans: { id: string }[] = await store.query(
    'SELECT e.id FROM entry e LEFT JOIN shower s ON s.id = e.shower_id WHERE s.id IS NULL',
  );
  return [
    ...(await bookFaults(store)),
    ...(await anchorFaults(store)),
    ...orphans.map(({ id }) => ({ where: `entry ${id}`, what: 'belongs to no shower' })),
  ];
}
