import { keptAfter } from '@careful-seam/core/proof/fold/keptAfter';
import type { ShowerModel } from '@careful-seam/core/shower/geometry/showerModel';
import { elementName } from '@careful-seam/words/texts/names';
import { useCallback, useMemo, useState } from 'react';
import { FormProvider, useForm } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { Link, useNavigate } from 'react-router';
import { useNewestBook } from '../../tablet/newestBook';
import { newId, useNamedShowers, useParts } from '../../tablet/store';
import { usePreferences } from '../../ui/preferences';
import { BoardFields } from './BoardFields';
import { DrawingFiles } from './DrawingFiles';
import { DrawnMap } from './DrawnMap';
import type { Drawn } from './drawing';
import { FallNote } from './FallNote';
import type { NewForm } from './fields';
import { firstStage, keptForm, mainFirst, nameOf, namesOf, pinnedBy, type Start, typeOf } from './formStart';
import { MethodFields } from './MethodFields';
import { PartFields } from './PartFields';
import { RoomFields } from './RoomFields';
import { startTyped } from './typed';
import { useDrawn } from './useDrawn';

const TABS = ['room', 'parts', 'boards', 'method'] as const;
type Tab = (typeof TABS)[number];

/** Where on the form a fault is put right. */
function tabOf(field: string): Tab {
  if (/^(niches|benches|pipes|ceiling)/.test(field)) return 'parts';
  return /^(boardJoint|sheet)/.test(field) ? 'boards' : 'room';
}

/** A shower from a few lengths, with its map, its seams and its fall drawn while typing. */
export function ShowerForm({ start }: { start: Start }) {
  const { t } = useTranslation();
  const navigate = useNavigate();
  const preferred = usePreferences().unit;
  const { crews, settings, writeAll } = useParts('crews', 'settings', 'writeAll');
  const known = useNamedShowers();
  const [before] = useState(() => (start.kind === 'new' ? null : keptForm(start.shower)));
  const unit = before?.typed.unit ?? preferred;
  const [ids] = useState(() => new Map<string, string>(Object.entries(before?.ids ?? {})));
  /** Each part keeps the id that it was first drawn with. */
  const idOf = useCallback(
    (part: string): string => {
      const known = ids.get(part) ?? newId();
      ids.set(part, known);
      return known;
    },
    [ids],
  );
  const [tab, setTab] = useState<Tab>('room');
  const [problem, setProblem] = useState<string | null>(null);
  const book = useNewestBook() ?? null;
  const form = useForm<NewForm>({
    defaultValues: {
      ...startTyped(unit, idOf),
      name: '',
      job: '',
      crewId: crews[0]?.id ?? '',
      method: mainFirst(book?.methods ?? [], settings?.mainMethods)[0]?.key ?? '',
      parts: {},
      variants: [],
      beginsAt: firstStage(book),
      ...before?.typed,
      ...(start.kind === 'new' ? {} : namesOf(start)),
    },
  });
  const typed = form.watch();
  /** Dimensions read from a file stand instead of the form until somebody goes back to it. */
  const [imported, setImported] = useState<ShowerModel | null>(null);
  const { drawn: byForm, settle } = useDrawn(typed, idOf, unit);
  const withFile = (drawing: Drawn): Drawn =>
    imported ? { ...drawing, model: imported, geometry: imported.geometry, fall: null, problems: {} } : drawing;
  const drawn = withFile(byForm);
  const pinned = pinnedBy(typed, start, book);
  const faults = Object.entries(drawn.problems);
  const elsewhere = faults.filter(([field]) => field !== 'form' && tabOf(field) !== tab);
  const kept = useMemo(
    () => (start.kind === 'edit' && drawn.model ? keptAfter(start.shower.state, drawn.model) : null),
    [start, drawn.model],
  );
  const submit = form.handleSubmit(async ({ name, job, crewId, ...shape }) => {
    const { geometry } = withFile(settle());
    if (!geometry || !book) return setProblem(book ? t('new.fix') : t('new.noBook'));
    const drawing = imported ? {} : { drawing: { typed: { ...shape, unit }, ids: Object.fromEntries(ids) } };
    if (start.kind === 'edit') {
      const now = start.shower.state.geometry!;
      const body = { version: now.version + 1, geometry, ...drawing, ...(now.from ? { from: now.from } : {}) };
      await writeAll(start.shower.id, [{ kind: 'geometry-set', body }]);
      return navigate(`/showers/${start.shower.id}`);
    }
    const all = name.split('\n').flatMap((line) => (line.trim() === '' ? [] : [line.trim()]));
    const taken = known.filter((s) => s.job === job.trim()).map((s) => s.name.toLowerCase());
    const twice = all.find((n, k) => taken.includes(n.toLowerCase()) || all.indexOf(n) !== k);
    if (twice) return setProblem(t('new.nameTaken', { name: twice, job: job.trim() }));
    const from = start.kind === 'like' ? { from: typeOf(start.shower) } : {};
    const timeZone = Intl.DateTimeFormat().resolvedOptions().timeZone;
    let id = '';
    for (const one of all) {
      id = newId();
      await writeAll(id, [
        { kind: 'shower-created', body: { name: one, job: job.trim(), crewId, timeZone } },
        { kind: 'geometry-set', body: { version: 1, geometry, ...drawing, ...from } },
        { kind: 'rules-pinned', body: { ruleBook: book.id, version: book.version, ...pinned } },
      ]);
    }
    await navigate(all.length === 1 ? `/showers/${id}` : '/');
  });

  return (
    <FormProvider {...form}>
      <form className="grid h-full grid-rows-[auto_1fr] max-lg:h-auto" onSubmit={(e) => void submit(e)}>
        <header className="flex items-center gap-4 border-edge border-b-2 px-4 py-1.5 max-md:flex-wrap max-md:gap-2">
          <Link to="/" className="key flex items-center">
            {t('shower.day')}
          </Link>
          <h1 className="flex-1 font-bold text-xl">{t(`new.titles.${start.kind}`, { name: nameOf(start) })}</h1>
          {start.kind === 'edit' && (
            <Link to={`/new?like=${start.shower.id}`} className="key flex items-center">
              {t('new.more')}
            </Link>
          )}
          <DrawingFiles model={drawn.model} name={typed.name || nameOf(start)} onRead={setImported} />
          <button type="submit" className="key key-main text-lg" disabled={!drawn.geometry}>
            {t(start.kind === 'edit' ? 'new.change' : 'new.make')}
          </button>
        </header>
        <div className="grid min-h-0 grid-cols-[440px_1fr] max-lg:grid-cols-1">
          <div className="flex flex-col gap-2 overflow-y-auto border-edge border-r p-3">
            {kept && (
              <p data-testid="kept" className={kept.lost.length > 0 ? 'border-cure border-l-4 pl-2' : 'text-soft'}>
                {t('new.keptEvidence', { count: kept.kept })}{' '}
                {kept.lost.length > 0 &&
                  t('new.lost', {
                    count: kept.lost.length,
                    places: [
                      ...new Set(
                        kept.lost.map((e) =>
                          elementName(
                            t,
                            start.kind === 'edit' ? start.shower.state.geometry!.model : drawn.model!,
                            e.element,
                          ),
                        ),
                      ),
                    ]
                      .slice(0, 6)
                      .join('; '),
                  })}
              </p>
            )}
            {start.kind === 'like' && (
              <label className="text-sm">
                <span className="text-soft">{t('new.namesEach')}</span>
                <textarea
                  className="field py-2 text-base"
                  rows={3}
                  {...form.register('name', {
                    validate: (v) => v.trim() !== '' || t('new.needed', { field: t('new.name') }),
                  })}
                />
              </label>
            )}
            <div className={`grid-cols-3 gap-2 max-sm:grid-cols-1 ${start.kind === 'edit' ? 'hidden' : 'grid'}`}>
              {(start.kind === 'like' ? (['job'] as const) : (['name', 'job'] as const)).map((field) => (
                <label key={field} className="text-sm">
                  <span className="text-soft">{t(`new.${field}`)}</span>
                  <input
                    className="field text-base"
                    aria-invalid={Boolean(form.formState.errors[field])}
                    {...form.register(field, {
                      validate: (v) => v.trim() !== '' || t('new.needed', { field: t(`new.${field}`) }),
                    })}
                  />
                  {form.formState.errors[field] && (
                    <span role="alert" className="text-hold">
                      {form.formState.errors[field].message}
                    </span>
                  )}
                </label>
              ))}
              <label className="text-sm">
                <span className="text-soft">{t('new.crew')}</span>
                <select className="field text-base" {...form.register('crewId', { required: true })}>
                  {crews.map((c) => (
                    <option key={c.id} value={c.id}>
                      {c.name}
                    </option>
                  ))}
                </select>
              </label>
            </div>
            {imported && (
              <div className="border-cure border-l-4 pl-2">
                <p>{t('drawing.fromFile')}</p>
                <button type="button" className="key text-sm" onClick={() => setImported(null)}>
                  {t('drawing.back')}
                </button>
              </div>
            )}
            <div className="grid grid-cols-4 gap-1" role="tablist" aria-label={t('new.tabs')}>
              {TABS.filter((key) => key !== 'method' || start.kind !== 'edit').map((key) => (
                <button
                  type="button"
                  role="tab"
                  key={key}
                  id={`new-tab-${key}`}
                  aria-controls="new-tab"
                  aria-selected={tab === key}
                  className="key px-1"
                  onClick={() => setTab(key)}
                >
                  {t(`new.tab.${key}`)}
                </button>
              ))}
            </div>
            <div id="new-tab" role="tabpanel" aria-labelledby={`new-tab-${tab}`} className="flex flex-col gap-2">
              {tab === 'room' && <RoomFields drawn={drawn} />}
              {tab === 'parts' && <PartFields drawn={drawn} />}
              {tab === 'boards' && <BoardFields drawn={drawn} />}
              {tab === 'method' && book && <MethodFields drawn={drawn} book={book} />}
            </div>
            {elsewhere.map(([field, message]) => (
              <div role="alert" key={field}>
                <button type="button" className="key text-left text-hold text-sm" onClick={() => setTab(tabOf(field))}>
                  {t(`new.tab.${tabOf(field)}`)}: {message}
                </button>
              </div>
            ))}
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
