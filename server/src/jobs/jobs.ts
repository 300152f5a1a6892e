import type { Person } from '@careful-seam/contract/api/messages';
import type { JobLine } from '@careful-seam/contract/api/office';
import { type DataSource, Raw } from 'typeorm';
import { Refusal } from '../people/refusal';
import { JobEntity, ShowerEntity, type ShowerTableRow, UserEntity } from '../store/entities';

const ON_A_TABLET = 200;
/** Showers that a search gives at most. */
export const FOUND_AT_MOST = 50;

export const showerAnswer = (row: ShowerTableRow) => ({ ...row, updatedAt: row.updatedAt.toISOString() });

const ownCrew = (person: Person) => (person.role === 'crew-lead' ? { crewId: person.crewId ?? '' } : {});

/**
 * What a tablet keeps by itself: the visits of today and the next two days, then the newest changes, 200 in all. Crew
 * leads keep their own crew's. Newest change first.
 */
export async function showersForTablet(store: DataSource, person: Person, now: Date): Promise<ShowerTableRow[]> {
  const showers = store.getRepository(ShowerEntity);
  const day = (days: number) => new Date(now.getTime() + days * 86_400_000).toISOString().slice(0, 10);
  // A day to each side: the site's day may not be this machine's.
  const visitOn = Raw((column) => `${column} BETWEEN :from AND :to`, { from: day(-1), to: day(3) });
  const [visits, newest] = [
    await showers.find({ where: { ...ownCrew(person), visitOn }, order: { visitOn: 'ASC' }, take: ON_A_TABLET }),
    await showers.find({ where: ownCrew(person), order: { updatedAt: 'DESC' }, take: ON_A_TABLET }),
  ];
  const kept = new Map([...visits, ...newest].map((row) => [row.id, row]));
  return [...kept.values()].slice(0, ON_A_TABLET).sort((a, b) => b.updatedAt.getTime() - a.updatedAt.getTime());
}

/** Showers whose name or job has words that begin like those typed. */
export async function findShowers(store: DataSource, person: Person, typed: string): Promise<ShowerTableRow[]> {
  const words = typed.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? [];
  if (words.length === 0) return [];
  const query = store
    .getRepository(ShowerEntity)
    .createQueryBuilder('s')
    .where(`to_tsvector('simple', s.name || ' ' || s.job) @@ to_tsquery('simple', :query)`, {
      query: words.map((w) => `${w}:*`).join(' & '),
    })
    .orderBy('s.updatedAt', 'DESC')
    .take(FOUND_AT_MOST + 1);
  if (person.role === 'crew-lead') query.andWhere('s.crewId = :crew', { crew: person.crewId ?? '' });
  return query.getMany();
}

export async function listJobs(store: DataSource): Promise<JobLine[]> {
  return store.query(
    `SELECT j.name, j.address, j.time_zone AS "timeZone", (SELECT count(*)::int FROM shower s WHERE s.job = j.name) AS showers
    FROM job j ORDER BY j.name LIMIT 1000`,
  );
}

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
  now: Date,
): Promise<void> {
  const inspector = inspectorId && (await store.getRepository(UserEntity).findOneBy({ id: inspectorId }));
  if (inspectorId && (!inspector || inspector.role === 'crew-lead' || inspector.disabled))
    throw new Refusal('input-invalid', 'inspectorId', 'Choose an inspector or a manager of the firm who can sign in.');
  await store.getRepository(ShowerEntity).update({ id: showerId }, { inspectorId, visitOn, updatedAt: now });
}
