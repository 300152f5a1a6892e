import { CALCULATIONS } from '@careful-seam/core/calc/registry';
import { ROLES } from '@careful-seam/core/log/roles';
import { statusOf, withMessage } from '@careful-seam/words/errors/errors';
import { z } from 'zod';
import { runSum } from '../sums/runSum';
import { type Call, languageOf, param, type Route } from './route';

/** For everybody who is signed in. */
const EVERY = ROLES;

/** Who may sign, and ask for sums. */
const SIGNING = ['inspector', 'manager'] as const;

/** Works a sum out in a process of its own. */
async function calculate({ req, res }: Call): Promise<unknown> {
  const outcome = await runSum(param(req, 'name'), req.body);
  if (outcome.ok) return outcome.value;
  res.status(statusOf(outcome.problem.code));
  return { error: withMessage(outcome.problem, languageOf(req)) };
}

/** What these routes share. */
const usual = { roles: EVERY, limit: 'usual' as const };

/** What can be worked out. */
const Calculations = z.object({
  calculations: z.array(z.object({ name: z.string(), title: z.string(), source: z.string() })),
});

/** The calculations of the catalogue. */
export const SUM_ROUTES: readonly Route[] = [
  {
    ...usual,
    method: 'get',
    path: '/api/calc',
    summary: 'The calculations',
    gives: Calculations,
    answer: async () => ({ calculations: CALCULATIONS.map(({ name, title, source }) => ({ name, title, source })) }),
  },
  {
    ...usual,
    // Sums are for who inspects: a guest's link needs none.
    roles: SIGNING,
    method: 'post',
    path: '/api/calc/:name',
    summary: 'Runs a calculation',
    body: 'json',
    takes: z.looseObject({}),
    gives: z.looseObject({}),
    answer: calculate,
  },
];
