import type { Role } from '@careful-seam/core/log/roles';
import type { ReactNode } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, Navigate, NavLink, useParams } from 'react-router';
import { ComparePage } from '../rooms/across/ComparePage';
import { DefectsPage } from '../rooms/across/DefectsPage';
import { EyesPage } from '../rooms/across/EyesPage';
import { HoldsPage } from '../rooms/across/HoldsPage';
import { LookPage } from '../rooms/across/LookPage';
import { MonthsPage } from '../rooms/across/MonthsPage';
import { ReportPage } from '../rooms/across/ReportPage';
import { SlippedPage } from '../rooms/across/SlippedPage';
import { WrongPage } from '../rooms/across/WrongPage';
import { HelpKey } from '../shared/Help';
import { SyncMark } from '../shared/SyncMark';
import { useParts } from '../tablet/store';
import { PageTitle } from '../ui/PageTitle';

/** For whom a question is answered. */
const [ALL, LEADING, MANAGING]: readonly (readonly Role[])[] = [
  ['manager', 'inspector', 'crew-lead'],
  ['manager', 'crew-lead'],
  ['manager'],
];

/** Each question by the name in its address, with who may ask it. */
const PAGES = {
  open: { shown: DefectsPage, roles: ALL! },
  crews: { shown: ComparePage, roles: LEADING! },
  wrong: { shown: WrongPage, roles: MANAGING! },
  slipped: { shown: SlippedPage, roles: MANAGING! },
  months: { shown: MonthsPage, roles: MANAGING! },
  holds: { shown: HoldsPage, roles: MANAGING! },
  look: { shown: LookPage, roles: MANAGING! },
  eyes: { shown: EyesPage, roles: MANAGING! },
  report: { shown: ReportPage, roles: MANAGING! },
} satisfies Record<string, { shown: () => ReactNode; roles: readonly Role[] }>;
/** One of them. */
type Question = keyof typeof PAGES;
/** True for a name that is one. */
const isQuestion = (name: string): name is Question => name in PAGES;

/** What is asked across crews: each page one question, its answer in words first. */
export function Across() {
  const { t } = useTranslation();
  const { page } = useParams();
  const { person } = useParts('person');
  if (page === undefined) return <Navigate to="/across/open?state=open" replace />;
  if (!person || !isQuestion(page) || !PAGES[page].roles.includes(person.role)) return <Navigate to="/" replace />;
  const Shown = PAGES[page].shown;
  const questions = (Object.keys(PAGES) as Question[]).filter((name) => PAGES[name].roles.includes(person.role));
  return (
    <div className="grid h-full grid-rows-[auto_minmax(0,1fr)] max-lg:h-auto">
      <header className="flex items-center gap-4 border-edge border-b-2 px-4 py-1.5 max-lg:flex-wrap max-lg:gap-2">
        <Link to="/" className="key flex items-center">
          {t('shower.day')}
        </Link>
        <PageTitle text={t(`across.question.${page}`)} />
        <h1 className="font-bold text-xl">{t(`across.question.${page}`)}</h1>
        <div className="flex-1" />
        <SyncMark />
        <HelpKey />
      </header>
      <div className="grid min-h-0 grid-cols-[10rem_minmax(0,1fr)] grid-rows-[minmax(0,1fr)] max-lg:grid-cols-1 max-lg:grid-rows-[auto_auto]">
        <nav
          aria-label={t('across.title')}
          className="flex flex-col gap-1 border-edge border-r p-2 max-lg:flex-row max-lg:flex-wrap max-lg:border-r-0 max-lg:border-b"
        >
          {questions.map((name) => (
            <NavLink
              key={name}
              to={`/across/${name}${name === 'open' ? '?state=open' : ''}`}
              className="key flex items-center no-underline aria-[current=page]:bg-ink aria-[current=page]:text-leaf"
            >
              {t(`across.page.${name}`)}
            </NavLink>
          ))}
        </nav>
        <main className="min-h-0 min-w-0 p-3">
          <Shown />
        </main>
      </div>
    </div>
  );
}
