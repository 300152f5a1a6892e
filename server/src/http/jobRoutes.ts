import { JobList, PutJob, Visit } from '@careful-seam/contract/api/office';
import { listJobs, putJob, setVisit } from '../jobs/jobs';
import { visibleShower } from '../showers/loadShower';
import { JobsAsk } from './asks';
import { type Call, param, type Route, read, readQuery, uuidParam } from './route';

/** For managers alone. */
const MANAGING = { roles: ['manager'] as const, limit: 'usual' as const };

/** Address and time zone of a site. */
async function changeJob({ req, res, services }: Call): Promise<unknown> {
  const job = read(PutJob, req.body);
  await putJob(services.store, param(req, 'job'), job);
  res.locals.about = param(req, 'job');
  return job;
}

/** Who looks at a shower next, and when. */
async function planVisit({ req, res, person, services }: Call): Promise<unknown> {
  const visit = read(Visit, req.body);
  const row = await visibleShower(services.store, person, uuidParam(req));
  await setVisit(services.store, row.id, visit);
  res.locals.about = `${row.name}, ${row.job}: ${visit.visitOn ?? 'no day'}`;
  return visit;
}

/** Jobs, and the days of visits. */
export const JOB_ROUTES: readonly Route[] = [
  {
    roles: ['inspector', 'manager'],
    limit: 'usual',
    method: 'get',
    path: '/api/jobs',
    asks: JobsAsk,
    summary: 'A page of jobs with their site and how many showers they have (query: after)',
    gives: JobList,
    answer: ({ req, services }) => listJobs(services.store, readQuery(JobsAsk, req.query).after),
  },
  {
    ...MANAGING,
    method: 'put',
    path: '/api/jobs/:job',
    summary: "Sets a job's address and the site's time zone",
    body: 'json',
    takes: PutJob,
    gives: PutJob,
    did: 'job-changed',
    answer: changeJob,
  },
  {
    ...MANAGING,
    method: 'put',
    path: '/api/showers/:id/visit',
    summary: 'Says who looks at a shower next, and when',
    body: 'json',
    takes: Visit,
    gives: Visit,
    did: 'visit-set',
    answer: planVisit,
  },
];
