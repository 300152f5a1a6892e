import { FIRST_SETTINGS } from '@careful-seam/contract/api/firm';
import { FIRST_PLAN_SETTINGS, NO_PLAN_SET } from '@careful-seam/contract/api/plan';
import { addDaysTo, dayAt } from '@careful-seam/core/plan/workCalendar';
import type { FindRuleBook } from '@careful-seam/core/proof/fold/foldShower';
import { writeSettings } from '@careful-seam/server/firm/settings';
import { appendEntries } from '@careful-seam/server/ledger/appendEntries';
import { hashPassword } from '@careful-seam/server/people/sessions';
import { keepPhoto } from '@careful-seam/server/photos/photoStore';
import { writeNote } from '@careful-seam/server/plan/planNotes';
import { RuleBookEntity } from '@careful-seam/server/store/entities/firm';
import { CrewEntity, UserEntity } from '@careful-seam/server/store/entities/people';
import { JobEntity } from '@careful-seam/server/store/entities/showers';
import type { DataSource } from 'typeorm';
import { demoFloods } from '../demoFloods';
import { demoMethods } from '../demoMethods';
import { demoRuleBook } from '../demoRuleBook';
import { demoShowers } from '../demoShowers';
import { CREWS, DEMO_PASSWORD, JOBS, PEOPLE, PLAN, SETTINGS } from '../firm';
import { loadYears } from '../years/loadYears';

/** Where the sites lie, what is on its way to them and what was promised. */
async function loadPlan(store: DataSource, now: Date): Promise<void> {
  const today = dayAt(SETTINGS.timeZone, now.getTime());
  await writeNote(store, 'settings', '', { ...FIRST_PLAN_SETTINGS, start: PLAN.start }, now);
  for (const [job, place] of Object.entries(PLAN.places))
    await writeNote(store, 'job', job, { place, minutes: {} }, now);
  const idOf = async (name: string): Promise<string[]> =>
    (await store.query('SELECT id FROM shower WHERE name = $1', [name])).map((row: { id: string }) => row.id);
  for (const { shower, stage, what, inDays } of PLAN.goods)
    for (const id of await idOf(shower))
      await writeNote(
        store,
        'shower',
        id,
        { ...NO_PLAN_SET, goods: [{ stage, what, dueOn: addDaysTo(today, inDays) }] },
        now,
      );
  for (const { shower, inDays } of PLAN.promised)
    for (const id of await idOf(shower))
      await writeNote(store, 'shower', id, { ...NO_PLAN_SET, promisedOn: addDaysTo(today, inDays) }, now);
}

/** Loads the rule book and the demo firm into an empty database; does nothing when somebody is already there. */
export async function loadDemoFirm({
  store,
  picturePlace,
  now,
  years = false,
}: {
  store: DataSource;
  picturePlace: string;
  now: () => Date;
  /** With two years of finished showers of fourteen crews. */
  years?: boolean;
}): Promise<boolean> {
  if ((await store.getRepository(UserEntity).count()) > 0) return false;
  const book = demoRuleBook();
  await store
    .getRepository(RuleBookEntity)
    .upsert({ origin: '', id: book.id, version: book.version, data: book as object }, ['origin', 'id', 'version']);
  await store.getRepository(CrewEntity).upsert([...CREWS], ['id']);
  const find: FindRuleBook = (id, version) => (id === book.id && version === book.version ? book : null);
  const todayMs = now().getTime();
  const showers = [...(await demoShowers(todayMs, find)), ...demoFloods(todayMs, find), ...demoMethods(todayMs, find)];
  for (const shower of showers) {
    for (const { hash, bytes } of shower.photos) await keepPhoto(store, picturePlace, hash, bytes, now());
    for (const { person, sealed } of shower.sealed) {
      const { id, name, role, crewId } = PEOPLE.find((p) => p.key === person)!;
      const answer = await appendEntries(store, shower.showerId, [sealed.text], {
        person: { id, name, role, crewId },
        now: now(),
        skewMs: 0,
      });
      if (answer.refused) throw new Error(`demo entry refused: ${answer.refused.field}: ${answer.refused.code}`);
    }
  }
  if (years) await loadYears(store, todayMs, book, find);
  await store.getRepository(JobEntity).upsert([...JOBS], ['name']);
  await loadPlan(store, now());
  await writeSettings(store, { ...FIRST_SETTINGS, ...SETTINGS, mainMethods: [...SETTINGS.mainMethods] });
  const passwordHash = await hashPassword(DEMO_PASSWORD);
  // Last of all, and on the disk before it is said to be there: with somebody in it the firm is loaded.
  await store.transaction(async (tx) => {
    await tx.query('SET LOCAL synchronous_commit = on');
    await tx
      .getRepository(UserEntity)
      .insert(
        PEOPLE.map(({ key: _key, ...p }) => ({ ...p, passwordHash, disabled: false, email: `${p.signIn}@demo.test` })),
      );
    await tx.query('INSERT INTO demo_firm (loaded_at) VALUES ($1)', [now()]);
  });
  return true;
}
