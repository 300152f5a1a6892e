import type {
  AgreementLine,
  BlindAnswered,
  BlindChoices,
  BlindLookRow,
  BlindTask,
  EyesAnswer,
  EyesAsk,
  NewBlindLook,
} from '@careful-seam/contract/api/blind';
import { BLIND_PLACES_AT_MOST } from '@careful-seam/contract/api/blind';
import type { Person } from '@careful-seam/contract/api/messages';
import {
  type AnswerPair,
  agreement,
  type BlindAnswers,
  type BlindQuestion,
  blindQuestions,
  pairsOf,
  shownByOthers,
} from '@careful-seam/core/crews/blindLook';
import { type ElementGroup, elementGroup } from '@careful-seam/core/crews/elementGroup';
import type { Language, Words } from '@careful-seam/words/texts/language';
import { elementName } from '@careful-seam/words/texts/names';
import type { DataSource } from 'typeorm';
import { In } from 'typeorm';
import { v4 } from 'uuid';
import { Refusal } from '../refusals/refusal';
import { type LoadedShower, loadShower } from '../showers/loadShower';
import { oneShowerRow } from '../showers/showerRows';
import { UserEntity } from '../store/entities/people';
import type { Names } from './names';

/** Looks that are shown in a list; older ones count on in the agreement. */
const SHOWN_AT_MOST = 100;

/** A place as it was asked: its part of the shower is kept, since dimensions may change. */
interface AskedPlace {
  element: string;
  group: ElementGroup;
}

/** A blind look as it is stored. */
interface StoredLook {
  id: string;
  showerId: string;
  shower: string;
  job: string;
  stage: string;
  check: string;
  places: AskedPlace[];
  firstId: string;
  secondId: string;
  askedAt: Date;
  /** Answers by the inspector's id. */
  answers: Record<string, BlindAnswers>;
}

/** Blind looks that a condition lets through, the newest first, with their answers. */
async function looksWhere(store: DataSource, where: string, values: readonly unknown[]): Promise<StoredLook[]> {
  return store.query(
    `SELECT b.id, b.shower_id AS "showerId", s.name AS shower, s.job, b.stage, b.check_id AS "check", b.places,
      b.first_id AS "firstId", b.second_id AS "secondId", b.asked_at AS "askedAt",
      coalesce((SELECT jsonb_object_agg(a.inspector_id, a.answers) FROM blind_answer a WHERE a.look_id = b.id), '{}') AS answers
    FROM blind_look b JOIN shower s ON s.id = b.shower_id WHERE ${where} ORDER BY b.asked_at DESC, b.id`,
    [...values],
  );
}

/** A shower as it stands now, its rules in a language. */
async function showerNow(store: DataSource, id: string, language: Language, now: Date): Promise<LoadedShower> {
  const row = await oneShowerRow(store, id);
  if (!row) throw new Refusal('no-such-shower', 'shower');
  return loadShower(store, row, now, language);
}

/** People who may look at a shower. */
const inspectors = (store: DataSource) =>
  store
    .getRepository(UserEntity)
    .find({ where: { role: In(['inspector', 'manager']), disabled: false }, order: { name: 'ASC' } });

/** Label of a question of a shower, and why it matters. */
function wordsOf({ state }: LoadedShower, { stage, check }: Pick<BlindQuestion, 'stage' | 'check'>) {
  const found = state.requirements.find((r) => r.stage.key === stage && r.check.id === check);
  return {
    stageLabel: found?.stage.label ?? stage,
    label: found?.check.label ?? check,
    why: found?.check.why ?? '',
  };
}

/** What two inspectors can be asked of a shower, and whom. */
export async function blindChoices(
  store: DataSource,
  shower: string,
  language: Language,
  now: Date,
): Promise<BlindChoices> {
  const loaded = await showerNow(store, shower, language, now);
  return {
    questions: blindQuestions(loaded.state).map((q) => {
      const { stageLabel, label } = wordsOf(loaded, q);
      return { stage: q.stage, stageLabel, check: q.check, label, places: q.places.length };
    }),
    inspectors: (await inspectors(store)).map(({ id, name }) => ({ id, name })),
  };
}

/** Asks two inspectors the same of a shower, each without the other. Gives its id and the shower's name. */
export async function askBlindLook(
  store: DataSource,
  asked: NewBlindLook,
  by: string,
  now: Date,
): Promise<{ id: string; shower: string }> {
  if (asked.first === asked.second) throw new Refusal('blind-look-alone', 'second');
  const known = new Set((await inspectors(store)).map((p) => p.id));
  for (const field of ['first', 'second'] as const)
    if (!known.has(asked[field])) throw new Refusal('inspector-unknown', field);
  const { row, state } = await showerNow(store, asked.shower, 'en', now);
  const question = blindQuestions(state).find((q) => q.stage === asked.stage && q.check === asked.check);
  if (!question) throw new Refusal('blind-look-nothing', 'check');
  const model = state.geometry?.model ?? null;
  const places = question.places
    .slice(0, BLIND_PLACES_AT_MOST)
    .map((element): AskedPlace => ({ element, group: elementGroup(model, element) }));
  const id = v4();
  await store.query(
    `INSERT INTO blind_look (id, shower_id, stage, check_id, places, first_id, second_id, asked_by, asked_at)
    VALUES ($1, $2, $3, $4, $5::jsonb, $6, $7, $8, $9)`,
    [id, asked.shower, asked.stage, asked.check, JSON.stringify(places), asked.first, asked.second, by, now],
  );
  return { id, shower: row.name };
}

/** What of a blind look somebody can still answer without knowing the other's answer. */
function openPlaces(look: StoredLook, { state, entries }: LoadedShower, person: Person): string[] {
  const { stage, check } = look;
  // What was drawn anew, or is asked no more, has no such place.
  const there = new Set(
    state.requirements.filter((r) => r.stage.key === stage && r.check.id === check).map((r) => r.element),
  );
  const asked = look.places.map((p) => p.element).filter((element) => there.has(element));
  const shown = shownByOthers(entries, { stage, check, places: asked }, person.id);
  return asked.filter((element) => !shown.includes(element));
}

/** Blind looks that wait for somebody's own answers, the oldest first. */
export async function blindTasks(
  store: DataSource,
  person: Person,
  language: Language,
  t: Words,
  now: Date,
): Promise<BlindTask[]> {
  const waiting = await looksWhere(
    store,
    `$1::uuid IN (b.first_id, b.second_id)
      AND NOT EXISTS (SELECT 1 FROM blind_answer a WHERE a.look_id = b.id AND a.inspector_id = $1)`,
    [person.id],
  );
  const tasks: BlindTask[] = [];
  for (const look of waiting.reverse().slice(0, SHOWN_AT_MOST)) {
    const loaded = await showerNow(store, look.showerId, language, now);
    const places = openPlaces(look, loaded, person);
    const model = loaded.state.geometry?.model;
    if (!model) continue;
    const { id, showerId, shower, job, stage } = look;
    tasks.push({
      ...{ id, showerId, shower, job, stage },
      ...wordsOf(loaded, look),
      places: places.map((element) => ({ element, name: elementName(t, model, element) })),
      leftOut: look.places.length - places.length,
    });
  }
  return tasks;
}

/** Keeps somebody's own answers: of each place that is still open to them, and of no other. They stand then. */
export async function answerBlindLook(
  store: DataSource,
  person: Person,
  id: string,
  { answers }: BlindAnswered,
  now: Date,
): Promise<{ wrong: string[]; shower: string }> {
  const [look] = await looksWhere(store, 'b.id = $1 AND $2::uuid IN (b.first_id, b.second_id)', [id, person.id]);
  if (!look) throw new Refusal('no-such-blind-look', 'id');
  const open = openPlaces(look, await showerNow(store, look.showerId, 'en', now), person);
  const answered = new Set(Object.keys(answers));
  if (person.id in look.answers) throw new Refusal('blind-look-answered', 'id');
  if (open.length !== answered.size || open.some((element) => !answered.has(element)))
    throw new Refusal('blind-look-places', 'answers');
  // Twice at once: the first stands.
  const kept = await store.query(
    `INSERT INTO blind_answer (look_id, inspector_id, answers, answered_at) VALUES ($1, $2, $3::jsonb, $4)
    ON CONFLICT DO NOTHING RETURNING look_id`,
    [id, person.id, JSON.stringify(answers), now],
  );
  if (kept.length === 0) throw new Refusal('blind-look-answered', 'id');
  return { wrong: open.filter((element) => answers[element] === 'defect'), shower: look.shower };
}

/** Takes back what was asked; what was answered goes with it. Gives the shower's name. */
export async function endBlindLook(store: DataSource, id: string): Promise<string> {
  const [look] = await looksWhere(store, 'b.id = $1', [id]);
  if (!look) throw new Refusal('no-such-blind-look', 'id');
  await store.query('DELETE FROM blind_look WHERE id = $1', [id]);
  return look.shower;
}

/** A place that both answered, with all that agreement can be told apart by. */
interface Answered extends AnswerPair, AskedPlace {
  look: StoredLook;
}

/** What both answered of a look; null while one has not. */
function answeredOf(look: StoredLook): Answered[] | null {
  const [first, second] = [look.answers[look.firstId], look.answers[look.secondId]];
  if (!first || !second) return null;
  const groups = new Map(look.places.map((p) => [p.element, p.group]));
  return pairsOf(first, second).flatMap(({ place, ...pair }) => {
    const group = groups.get(place);
    return group ? [{ ...pair, element: place, group, look }] : [];
  });
}

/** How far some pairs agree, as a line. */
function lineOf(id: string, name: string, pairs: readonly Answered[]): AgreementLine {
  const found = agreement(pairs);
  if (!found.ok) throw new Error(found.problem.code);
  return { id, name, ...found.value };
}

/** Names of people by their ids; also of those who left. */
async function peopleNames(store: DataSource): Promise<(id: string) => string> {
  const people = await store.getRepository(UserEntity).find({ select: { id: true, name: true } });
  const names = new Map(people.map((p) => [p.id, p.name]));
  return (id) => names.get(id) ?? id;
}

/** Do inspectors see the same? Of what one has answered nothing is told, to nobody, until the other has too. */
export async function sameEyes(store: DataSource, ask: EyesAsk, names: Names, t: Words): Promise<EyesAnswer> {
  const looks = await looksWhere(
    store,
    `($1 = '' OR b.asked_at >= nullif($1, '')::date) AND ($2 = '' OR b.asked_at < nullif($2, '')::date + 1)`,
    [ask.from, ask.to],
  );
  const person = await peopleNames(store);
  const checks = new Map(names.stages.flatMap((s) => s.checks.map((c) => [c.id, c.label] as const)));
  const label = (check: string) => checks.get(check) ?? check;
  const told = looks.flatMap((look) => answeredOf(look) ?? []);
  const pairOf = ({ firstId, secondId }: StoredLook) => [firstId, secondId].map(person).join(', ');
  const keyOf: Record<EyesAsk['by'], (a: Answered) => [id: string, name: string]> = {
    group: (a) => [a.group, t(`elementGroup.${a.group}`)],
    check: (a) => [a.look.check, label(a.look.check)],
    pair: (a) => [`${a.look.firstId} ${a.look.secondId}`, pairOf(a.look)],
  };
  const apart = new Map<string, { name: string; pairs: Answered[] }>();
  for (const answer of told) {
    const [id, name] = keyOf[ask.by](answer);
    const line = apart.get(id) ?? { name, pairs: [] };
    apart.set(id, line);
    line.pairs.push(answer);
  }
  return {
    all: lineOf('', '', told),
    lines: [...apart]
      .map(([id, { name, pairs }]) => lineOf(id, name, pairs))
      .sort((a, b) => b.places - a.places || a.name.localeCompare(b.name)),
    looks: looks.slice(0, SHOWN_AT_MOST).map(
      (look): BlindLookRow => ({
        id: look.id,
        showerId: look.showerId,
        shower: look.shower,
        job: look.job,
        stage: look.stage,
        stageLabel: names.stage(look.stage),
        label: label(look.check),
        first: person(look.firstId),
        second: person(look.secondId),
        waitsFor: [look.firstId, look.secondId].filter((id) => !(id in look.answers)).map(person),
        askedAt: look.askedAt.toISOString(),
        places:
          answeredOf(look)?.map(({ element, group, first, second }) => ({ element, group, first, second })) ?? null,
      }),
    ),
  };
}
