import { Tabs } from 'radix-ui';
import { useState } from 'react';
import { FormProvider } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { DraftLine, Renewable } from '../../shared/DraftLine';
import { HelpKey } from '../../shared/Help';
import { PageTitle } from '../../ui/PageTitle';
import { BoardFields } from './BoardFields';
import { DrawingFiles } from './DrawingFiles';
import { DrawnMap } from './DrawnMap';
import { FallNote } from './FallNote';
import { nameOf, type Start } from './formStart';
import { HandOver } from './HandOver';
import { KeptNote } from './KeptNote';
import { MethodFields } from './MethodFields';
import { NameFields } from './NameFields';
import { PartFields } from './PartFields';
import { Rename } from './Rename';
import { RoomFields } from './RoomFields';
import { type ShowerFormState, useShowerForm } from './useShowerForm';

/** The parts of the form. */
const TABS = ['room', 'parts', 'boards', 'method'] as const;
/** One of them. */
type Tab = (typeof TABS)[number];

/** Where on the form a fault is put right. */
function tabOf(field: string): Tab {
  if (/^(niches|benches|pipes|ceiling)/.test(field)) return 'parts';
  return /^(boardJoint|sheet)/.test(field) ? 'boards' : 'room';
}

/** The ways out of the form: back, to a file, and made. */
function Head({ start, state: { drawn, typed, setImported } }: { start: Start; state: ShowerFormState }) {
  const { t } = useTranslation();
  return (
    <header className="flex items-center gap-4 border-edge border-b-2 px-4 py-1.5 max-lg:flex-wrap max-lg:gap-2">
      <Link to="/" className="key flex items-center">
        {t('shower.day')}
      </Link>
      <PageTitle text={t(`new.titles.${start.kind}`, { name: nameOf(start) })} />
      <h1 className="flex-1 font-bold text-xl">{t(`new.titles.${start.kind}`, { name: nameOf(start) })}</h1>
      {start.kind === 'edit' && <Rename showerId={start.shower.id} state={start.shower.state} />}
      {start.kind === 'edit' && <HandOver showerId={start.shower.id} state={start.shower.state} />}
      {start.kind === 'edit' && (
        <Link to={`/new?like=${start.shower.id}`} className="key flex items-center">
          {t('new.more')}
        </Link>
      )}
      <HelpKey />
      <DrawingFiles model={drawn.model} name={typed.name || nameOf(start)} onRead={setImported} />
      <button type="submit" className="key key-main text-lg" disabled={!drawn.geometry}>
        {t(start.kind === 'edit' ? 'new.change' : 'new.make')}
      </button>
    </header>
  );
}

/** The fields in their tabs; a fault on another tab is told with the way to it. */
function FieldTabs({ start, state: { drawn, book } }: { start: Start; state: ShowerFormState }) {
  const { t } = useTranslation();
  const [tab, setTab] = useState<Tab>('room');
  const elsewhere = Object.entries(drawn.problems).filter(([field]) => field !== 'form' && tabOf(field) !== tab);
  return (
    <Tabs.Root value={tab} onValueChange={(key) => setTab(key as Tab)} className="flex flex-col gap-2">
      <Tabs.List className="grid grid-cols-4 gap-1" aria-label={t('new.tabs')}>
        {TABS.filter((key) => key !== 'method' || start.kind !== 'edit').map((key) => (
          <Tabs.Trigger key={key} value={key} className="key px-1">
            {t(`new.tab.${key}`)}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      <Tabs.Content value={tab} className="flex flex-col gap-2">
        {tab === 'room' && <RoomFields drawn={drawn} />}
        {tab === 'parts' && <PartFields drawn={drawn} />}
        {tab === 'boards' && <BoardFields drawn={drawn} />}
        {tab === 'method' && book && <MethodFields drawn={drawn} book={book} />}
      </Tabs.Content>
      {elsewhere.map(([field, message]) => (
        <div role="alert" key={field}>
          <button type="button" className="key text-left text-hold text-sm" onClick={() => setTab(tabOf(field))}>
            {t(`new.tab.${tabOf(field)}`)}: {message}
          </button>
        </div>
      ))}
    </Tabs.Root>
  );
}

/** A shower from a few lengths, with its map, its seams and its fall drawn while typing. */
export function ShowerForm({ start }: { start: Start }) {
  return <Renewable form={(anew) => <Fields start={start} onAnew={anew} />} />;
}

/** The form, as it stands until it begins anew. */
function Fields({ start, onAnew }: { start: Start; onAnew: () => void }) {
  const { t } = useTranslation();
  const state = useShowerForm(start);
  const { form, draft, unit, book, crews, drawn, pinned, kept, imported, setImported, problem, submit } = state;
  return (
    <FormProvider {...form}>
      <form className="grid h-full grid-rows-[auto_1fr] max-lg:h-auto" onSubmit={(e) => void submit(e)}>
        <Head start={start} state={state} />
        <div className="grid min-h-0 grid-cols-[440px_1fr] max-lg:grid-cols-1">
          <div className="flex flex-col gap-2 overflow-y-auto border-edge border-r p-3">
            <DraftLine draft={draft} onAnew={onAnew} />
            {kept && start.kind === 'edit' && <KeptNote kept={kept} shower={start.shower} />}
            <NameFields start={start} crews={crews} />
            {imported && (
              <div className="border-cure border-l-4 pl-2">
                <p>{t('drawing.fromFile')}</p>
                <button type="button" className="key text-sm" onClick={() => setImported(null)}>
                  {t('drawing.back')}
                </button>
              </div>
            )}
            <FieldTabs start={start} state={state} />
            {(drawn.problems.form || problem) && (
              <p role="alert" className="text-hold">
                {drawn.problems.form ?? problem}
              </p>
            )}
            <FallNote drawn={drawn} />
          </div>
          <div className="flex min-h-0 flex-col p-3">
            <DrawnMap model={drawn.model} book={book} pinned={JSON.stringify(pinned)} unit={unit} />
          </div>
        </div>
      </form>
    </FormProvider>
  );
}
