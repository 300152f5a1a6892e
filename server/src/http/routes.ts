import { z } from 'zod';
import { BACKUP_ROUTES } from './backupRoutes';
import { BLIND_ROUTES } from './blindRoutes';
import { CREW_ROUTES } from './crewRoutes';
import { DEVICE_ROUTES } from './deviceRoutes';
import { ENTRY_ROUTES } from './entryRoutes';
import { FILE_ROUTES } from './fileRoutes';
import { FIRM_ROUTES } from './firmRoutes';
import { JOB_ROUTES } from './jobRoutes';
import { LINK_ROUTES } from './linkRoutes';
import { MAIL_ROUTES } from './mailRoutes';
import { OLD_DEFECT_ROUTES } from './oldDefectRoutes';
import { PEOPLE_ROUTES } from './peopleRoutes';
import { PHOTO_ROUTES } from './photoRoutes';
import { PLAN_ROUTES } from './planRoutes';
import { PUBLISH_ROUTES } from './publishRoutes';
import type { Route } from './route';
import { RULE_BOOK_ROUTES } from './ruleBookRoutes';
import { SESSION_ROUTES } from './sessionRoutes';
import { SET_UP_ROUTES } from './setUpRoutes';
import { SHOWER_ROUTES } from './showerRoutes';
import { SUM_ROUTES } from './sumRoutes';
import { SYNC_ROUTES } from './syncRoutes';

/** The description of the API, made once. */
let description: Promise<unknown> | null = null;

/** The route that gives it. */
const DESCRIPTION: Route = {
  method: 'get',
  path: '/api/openapi.json',
  summary: 'This description',
  roles: 'anyone',
  limit: 'usual',
  gives: z.looseObject({}),
  // Worked out once: it is long, and whoever asks for it is not signed in.
  answer: async () => {
    description ??= import('./openApi').then(({ openApi }) => openApi(ROUTES));
    return description;
  },
};

/** Every route of the server's API, with the roles that may call it. */
export const ROUTES: readonly Route[] = [
  ...SESSION_ROUTES,
  ...ENTRY_ROUTES,
  ...SHOWER_ROUTES,
  ...PHOTO_ROUTES,
  ...RULE_BOOK_ROUTES,
  ...SUM_ROUTES,
  ...SYNC_ROUTES,
  ...SET_UP_ROUTES,
  ...PEOPLE_ROUTES,
  ...LINK_ROUTES,
  ...DEVICE_ROUTES,
  ...FIRM_ROUTES,
  ...PUBLISH_ROUTES,
  ...JOB_ROUTES,
  ...PLAN_ROUTES,
  ...CREW_ROUTES,
  ...BLIND_ROUTES,
  ...OLD_DEFECT_ROUTES,
  ...MAIL_ROUTES,
  ...BACKUP_ROUTES,
  ...FILE_ROUTES,
  DESCRIPTION,
];
