import { LeakOdds, LeakRates } from '@careful-seam/contract/api/leaks';
import {
  AssignMany,
  Away,
  CrewPlan,
  DayPins,
  JobWays,
  PlanSettings,
  ShowerPlanSet,
  WeekAnswer,
  WeekAsk,
} from '@careful-seam/contract/api/plan';
import { z } from 'zod';
import { useLink } from '../people/links';
import { forgetAhead } from '../plan/aheads';
import { calendarOf } from '../plan/calendarFeed';
import { crewPlan } from '../plan/crewPlan';
import { ODDS_NOTE, writeNote } from '../plan/planNotes';
import { assignLooks, weekOf } from '../plan/week';
import { Refusal } from '../refusals/refusal';
import { visibleShower } from '../showers/loadShower';
import { crewOf } from '../sync/whatMoved';
import { SPOKEN } from './asks';
import { type Call, languageOf, param, type Route, read, readQuery, uuidParam } from './route';

/** The language of a calendar. */
const CalendarAsk = z.object(SPOKEN);

/** For managers alone. */
const MANAGING = { roles: ['manager'] as const, limit: 'usual' as const };
/** For whoever looks at showers. */
const LOOKING = { roles: ['inspector', 'manager'] as const, limit: 'usual' as const };

/** Hours, days off and weights of the firm. */
async function changeSettings({ req, res, services }: Call): Promise<unknown> {
  const settings = read(PlanSettings, req.body);
  await writeNote(services.store, 'settings', '', settings, services.now());
  res.locals.about = '';
  return settings;
}

/** What tracing begins with. */
async function changeLeakRates({ req, res, services }: Call): Promise<unknown> {
  const rates = read(LeakRates, req.body);
  await writeNote(services.store, 'leaks', '', rates, services.now());
  res.locals.about = '';
  return rates;
}

/** Probabilities that tracing works with. */
async function changeLeakOdds({ req, res, services }: Call): Promise<unknown> {
  const odds = read(LeakOdds, req.body);
  await writeNote(services.store, 'leaks', ODDS_NOTE, odds, services.now());
  res.locals.about = '';
  return odds;
}

/** Where a job lies, and the minutes to others. */
async function changeJob({ req, res, services }: Call): Promise<unknown> {
  const [ways, job] = [read(JobWays, req.body), param(req, 'job')];
  const known = await services.store.query(
    'SELECT 1 FROM job WHERE name = $1 UNION ALL SELECT 1 FROM shower WHERE job = $1 LIMIT 1',
    [job],
  );
  if (known.length === 0) throw new Refusal('no-such-job', 'job');
  await writeNote(services.store, 'job', job, ways, services.now());
  res.locals.about = job;
  return ways;
}

/** Goods, the promised day, and the air as it is expected at a shower. */
async function changeShower({ req, res, person, services }: Call): Promise<unknown> {
  const set = read(ShowerPlanSet, req.body);
  const row = await visibleShower(services.store, person, uuidParam(req));
  await writeNote(services.store, 'shower', row.id, set, services.now());
  await forgetAhead(services.store, row.id);
  res.locals.about = `${row.name}, ${row.job}`;
  return set;
}

/** Days off of a person: one's own, or anybody's for a manager. */
async function changeAway({ req, res, person, services }: Call): Promise<unknown> {
  const [away, id] = [read(Away, req.body), uuidParam(req, 'person')];
  if (person.role !== 'manager' && person.id !== id) throw new Refusal('manager-decides', 'id');
  await writeNote(services.store, 'away', id, away.days, services.now());
  res.locals.about = id;
  return away;
}

/** How one means to go today: crews and the office hear of it. */
async function changePins({ req, person, services }: Call): Promise<unknown> {
  const [pins, day] = [read(DayPins, req.body), read(z.iso.date(), param(req, 'day'))];
  await writeNote(services.store, 'day', `${person.id} ${day}`, pins, services.now());
  return pins;
}

/** Many looks at once. */
async function assign({ req, res, services }: Call): Promise<unknown> {
  const { looks } = read(AssignMany, req.body);
  await assignLooks(services.store, looks);
  res.locals.about = String(looks.length);
  return { looks };
}

/** Looks and floods of a person or a job; a code that is guessed, ended or too old opens nothing. */
async function calendar({ req, res, services }: Call): Promise<undefined> {
  const link = await useLink(services.store, 'calendar', param(req, 'code').replace(/\.ics$/, ''), services.now());
  const text = await calendarOf(services.store, link, languageOf(req), services.now());
  res.set('Cache-Control', 'no-store').type('text/calendar; charset=utf-8').send(text);
  return undefined;
}

/** The plan: what is set for it, the week of the firm, what a crew is told. */
export const PLAN_ROUTES: readonly Route[] = [
  {
    ...MANAGING,
    method: 'put',
    path: '/api/plan/settings',
    summary: 'Sets hours, days off and weights that the firm plans by',
    body: 'json',
    takes: PlanSettings,
    gives: PlanSettings,
    did: 'plan-changed',
    answer: changeSettings,
  },
  {
    ...MANAGING,
    method: 'put',
    path: '/api/leaks/rates',
    summary: 'Sets figures of the firm that tracing of leaks begins with, by kind',
    body: 'json',
    takes: LeakRates,
    gives: LeakRates,
    did: 'leak-rates-changed',
    answer: changeLeakRates,
  },
  {
    ...MANAGING,
    method: 'put',
    path: '/api/leaks/odds',
    summary: 'Sets probabilities of the firm that tracing of leaks works with, by name',
    body: 'json',
    takes: LeakOdds,
    gives: LeakOdds,
    did: 'leak-rates-changed',
    answer: changeLeakOdds,
  },
  {
    ...MANAGING,
    method: 'put',
    path: '/api/plan/jobs/:job',
    summary: 'Sets where a job lies and the minutes to others',
    body: 'json',
    takes: JobWays,
    gives: JobWays,
    did: 'plan-changed',
    answer: changeJob,
  },
  {
    ...LOOKING,
    method: 'put',
    path: '/api/plan/showers/:id',
    summary: 'Sets goods, the promised day and the expected air of a shower',
    body: 'json',
    takes: ShowerPlanSet,
    gives: ShowerPlanSet,
    did: 'plan-changed',
    answer: changeShower,
  },
  {
    ...LOOKING,
    method: 'put',
    path: '/api/plan/people/:id',
    summary: "Sets a person's days off",
    body: 'json',
    takes: Away,
    gives: Away,
    did: 'plan-changed',
    answer: changeAway,
  },
  {
    ...LOOKING,
    method: 'put',
    path: '/api/plan/days/:day',
    summary: "Says how one means to go on a day: stops at places of one's own, and those that were refused",
    body: 'json',
    takes: DayPins,
    gives: DayPins,
    answer: changePins,
  },
  {
    ...MANAGING,
    method: 'post',
    path: '/api/plan/looks',
    summary: 'Sets many looks to inspectors and days at once',
    body: 'json',
    takes: AssignMany,
    gives: AssignMany,
    did: 'looks-assigned',
    answer: assign,
  },
  {
    ...LOOKING,
    method: 'get',
    path: '/api/plan/week',
    asks: WeekAsk,
    summary: "The firm's week: showers by day, looks and who gives them, idle crews, what is waited for",
    gives: WeekAnswer,
    answer: ({ req, services }) => weekOf(services.store, services.now(), readQuery(WeekAsk, req.query).from),
  },
  {
    roles: 'anyone',
    limit: 'usual',
    method: 'get',
    path: '/api/calendar/:code',
    asks: CalendarAsk,
    summary: 'The calendar behind a link, as others subscribe to it (RFC 5545)',
    gives: 'text/calendar',
    answer: calendar,
  },
  {
    roles: ['crew-lead', 'inspector', 'manager'],
    limit: 'usual',
    method: 'get',
    path: '/api/plan/crew',
    summary: 'When an inspector comes to the showers of a crew, what must be ready, what may go on meanwhile',
    gives: CrewPlan,
    answer: ({ person, services }) => crewPlan(services.store, crewOf(person), services.now()),
  },
];
