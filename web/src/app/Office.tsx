import { countDecisions, decisionsWaiting } from '@careful-seam/core/proof/holds/decisionsWaiting';
import type { ReactNode } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, Navigate, NavLink, useParams } from 'react-router';
import { Firm } from '../rooms/office/Firm';
import { Jobs } from '../rooms/office/Jobs';
import { LeaksPage } from '../rooms/office/LeaksPage';
import { Links } from '../rooms/office/Links';
import { Audit, Mail } from '../rooms/office/MailAndAudit';
import { People } from '../rooms/office/People';
import { PlanPage } from '../rooms/office/PlanPage';
import { Server } from '../rooms/office/Server';
import { Rules } from '../rooms/ruleBook/Rules';
import { Approvals } from '../shared/Approvals';
import { HelpKey } from '../shared/Help';
import { SyncMark } from '../shared/SyncMark';
import { useParts } from '../tablet/store';
import { useQueue } from '../tablet/useList';
import { PageTitle } from '../ui/PageTitle';

/** Each page of the office by the name in its address. */
const PAGES = {
  approvals: Approvals,
  jobs: Jobs,
  plan: PlanPage,
  leaks: LeaksPage,
  people: People,
  links: Links,
  rules: Rules,
  firm: Firm,
  mail: Mail,
  audit: Audit,
  server: Server,
} satisfies Record<string, () => ReactNode>;
/** One of them. */
type Page = keyof typeof PAGES;
/** True for a name that is a page. */
const isPage = (name: string): name is Page => name in PAGES;

/** The office: each page answers one question. Managers only. */
export function Office() {
  const { t } = useTranslation();
  const { page = 'approvals' } = useParams();
  const { person, showers } = useParts('person', 'showers');
  const queue = useQueue(person?.role === 'manager');
  if (person?.role !== 'manager' || !isPage(page)) return <Navigate to="/" replace />;
  const Shown = PAGES[page];
  const here = [...showers.values()].reduce((n, s) => n + countDecisions(decisionsWaiting(s.state)), 0);
  const waiting = queue.data?.pages[0]?.decisions ?? here;
  return (
    <div className="grid h-full grid-rows-[auto_minmax(0,1fr)]">
      <header className="flex items-center gap-4 border-edge border-b-2 px-4 py-1.5 max-lg:flex-wrap max-lg:gap-2">
        <Link to="/" className="key flex items-center">
          {t('shower.day')}
        </Link>
        <PageTitle text={t(`office.page.${page}`)} />
        <h1 className="font-bold text-xl">{t(`office.question.${page}`)}</h1>
        <div className="flex-1" />
        <SyncMark />
        <HelpKey />
      </header>
      <div className="grid min-h-0 grid-cols-[11rem_1fr] grid-rows-[minmax(0,1fr)] max-md:grid-cols-1 max-md:grid-rows-[auto_1fr]">
        <nav
          aria-label={t('office.title')}
          className="flex flex-col gap-1 border-edge border-r p-2 max-md:flex-row max-md:flex-wrap max-md:border-r-0 max-md:border-b"
        >
          {Object.keys(PAGES).map((name) => (
            <NavLink
              key={name}
              to={`/office/${name}`}
              className="key flex items-center justify-between gap-2 no-underline aria-[current=page]:bg-ink aria-[current=page]:text-leaf"
            >
              {t(`office.page.${name}`)}
              {name === 'approvals' && waiting > 0 && <span className="tabular-nums">{waiting}</span>}
            </NavLink>
          ))}
        </nav>
        <main className="min-h-0 min-w-0 p-4 max-md:overflow-y-auto">
          <Shown />
        </main>
      </div>
    </div>
  );
}
