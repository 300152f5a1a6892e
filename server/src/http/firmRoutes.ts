import { FirmSettings } from '@careful-seam/contract/api/firm';
import { FirmKeyAnswer, LeakLimit } from '@careful-seam/contract/api/office';
import { firmKey } from '../firm/firmKey';
import { writeSettings } from '../firm/settings';
import { Refusal } from '../refusals/refusal';
import { setSmallestLeak } from '../rules/leakLimit';
import { PhotoEntity } from '../store/entities/pictures';
import { type Call, type Route, read } from './route';

/** For managers alone. */
const MANAGING = { roles: ['manager'] as const, limit: 'usual' as const };

/** What the firm is and how it works. */
async function changeSettings({ req, res, services }: Call): Promise<unknown> {
  const settings = read(FirmSettings, req.body);
  if (settings.logo !== null && !(await services.store.getRepository(PhotoEntity).existsBy({ hash: settings.logo })))
    throw new Refusal('logo-not-arrived', 'logo');
  await writeSettings(services.store, settings);
  res.locals.about = settings.name;
  return settings;
}

/** The smallest leak that a flood must rule out: a new version of the rule book. */
async function changeLeakLimit({ req, res, services }: Call): Promise<unknown> {
  const { smallestLeakMmPerDay } = read(LeakLimit, req.body);
  const version = await setSmallestLeak(services.store, smallestLeakMmPerDay);
  res.locals.about = `${smallestLeakMmPerDay ?? 'none'} mm a day, rule book version ${version}`;
  return { smallestLeakMmPerDay };
}

/** The firm: its settings and its key. */
export const FIRM_ROUTES: readonly Route[] = [
  {
    ...MANAGING,
    method: 'put',
    path: '/api/firm/settings',
    summary: 'Sets what holds for the whole firm',
    body: 'json',
    takes: FirmSettings,
    gives: FirmSettings,
    did: 'settings-changed',
    answer: changeSettings,
  },
  {
    ...MANAGING,
    method: 'put',
    path: '/api/firm/leak-limit',
    summary: 'Sets the smallest leak that a flood test must exclude, in a new version of the rule book',
    body: 'json',
    takes: LeakLimit,
    gives: LeakLimit,
    did: 'leak-limit-changed',
    answer: changeLeakLimit,
  },
  {
    method: 'get',
    path: '/api/firm/key',
    summary: "The firm's public key",
    roles: 'anyone',
    limit: 'usual',
    gives: FirmKeyAnswer,
    answer: async ({ services }) => ({
      algorithm: 'Ed25519',
      publicKey: (await firmKey(services.store, services.now())).publicKey,
    }),
  },
];
