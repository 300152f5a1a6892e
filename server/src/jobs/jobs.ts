import type { Person } from '@careful-seam/contract/api/messages';
import type { JobLine } from '@careful-seam/contract/api/office';
import type { DataSource } from 'typeorm';
import { Refusal } from '../refusals/refusal';
import { ofCrew, SHOWER_COLUMNS, type ShowerWithHead, showerRows } from '../showers/showerRows';
import { UserEntity } from '../store/entities/people';
import { JobEntity, ShowerEntity } from '../store/entities/showers';
import { crewOf } from '../sync/whatMoved';

/** Showers that a search gives at most. */
export const FOUND_AT_MOST = 50;
/** Lines of one page of a list. */
const PAGE = 200;

/** One page of showers, of one job where it is named, newest change first. `from` is what the page before ended with. */
export async function listShowers(
  store: DataSource,
  person: Person,
  { job, from }: { job: string | null; from: string | null },
): Promise<{ rows: ShowerWithHead[]; next: string | null }> {
  const [at, id] = from?.split(' ') ?? [];
  const isPage = at !== undefined && !Number.isNaN(Date.parse(at)) && /^[0-9a-f-]{36}$/.test(id ?? '');
  const own = `($1::text IS NULL OR ${ofCrew('$1')}) AND ($2::text IS NULL OR s.job = $2)`;
  const page = '($3::timestamptz IS NULL OR (h.updated_at, s.id) < ($3, $4::uuid))';
  // The newest of each half of the index, so that no more is read than is shown.
  const half = (isSigned: boolean) =>
    showerRows(
      store,
      `WHERE h.is_signed = ${isSigned} AND ${own} AND ${page} ORDER BY h.updated_at DESC, s.id DESC LIMIT $5`,
      [crewOf(person), job, isPage ? at : null, isPage ? id : null, PAGE + 1],
    );
  const rows = [...(await half(false)), ...(await half(true))].sort(
    (a, b) => b.updatedAt.getTime() - a.updatedAt.getTime() || (a.id < b.id ? 1 : -1),
  );
  const shown = rows.slice(0, PAGE);
  const last = shown.at(-1);
  return { rows: shown, next: rows.length > PAGE && last ? `${last.updatedAt.toISOString()} ${last.id}` : null };
}

/** With fewer than this found, words that were typed in part are looked for too. */
const ENOUGH = 10;

/**
 * Showers whose name or job has words that begin like those typed, newest change first. The words before the last are looked for
 * whole at first, as people type them: a word that half of all names have is then no burden.
 */
export async function findShowers(store: DataSource, person: Person, typed: string): Promise<ShowerWithHead[]> {
  const words = typed.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? [];
  if (words.length === 0) return [];
  const whole = words.map((w, k) => (k < words.length - 1 ? w : `${w}:*`));
  const rows = await matching(store, person, whole.join(' & '));
  return rows.length >= ENOUGH || words.length === 1
    ? rows
    : matching(store, person, words.map((w) => `${w}:*`).join(' & '));
}

/** Showers whose name or job holds some words. */
async function matching(store: DataSource, person: Person, query: string): Promise<ShowerWithHead[]> {
  // What matches is found first, whatever its age: a word that nothing has costs no walk through all showers.
  return store.query(
    `WITH s AS MATERIALIZED (
      SELECT * FROM shower WHERE to_tsvector('simple', name || ' ' || job) @@ to_tsquery('simple', $2)
        AND ($1::text IS NULL OR ${ofCrew('$1', '')}))
    SELECT ${SHOWER_COLUMNS} FROM s JOIN shower_head h ON h.shower_id = s.id ORDER BY h.updated_at DESC LIMIT $3`,
    [crewOf(person), query, FOUND_AT_MOST + 1],
  );
}

/** One page of jobs by name, after the one that the page before ended with. */
export async function listJobs(store: DataSource, after: string): Promise<{ jobs: JobLine[]; more: boolean }> {
  const jobs: JobLine[] = await store.query(
    `SELECT j.name, j.address, j.time_zone AS "timeZone", (SELECT count(*)::int FROM shower s WHERE s.job = j.name) AS showers
    FROM job j WHERE j.name > $1 ORDER BY j.name LIMIT $2`,
    [after, PAGE + 1],
  );
  return { jobs: jobs.slice(0, PAGE), more: jobs.length > PAGE };
}

/** Address and time zone of a site. */
export async function putJob(
  store: DataSource,
  name: string,
  job: { address: string; timeZone: string },
): Promise<void> {
  await store.getRepository(JobEntity).upsert({ name, ...job }, ['name']);
}

/** Says who looks at a shower next, and when. */
export async function setVisit(
  store: DataSource,
  showerId: string,
  { inspectorId, visitOn }: { inspectorId: string | null; visitOn: string | null },
): Promise<void> {
  const inspector = inspectorId && (await store.getRepository(UserEntity).findOneBy({ id: inspectorId }));
  if (inspectorId && (!inspector || inspector.role === 'crew-lead' || inspector.disabled))
    throw new Refusal('inspector-unknown', 'inspectorId');
  await store.getRepository(ShowerEntity).update({ id: showerId }, { inspectorId, visitOn });
}
