import { type OldMappingBody, OldTableRead, OldTables, OldTableTaken } from '@careful-seam/contract/api/oldDefects';
import { OLD_FIELDS, OLD_FIELDS_NEEDED } from '@careful-seam/files/oldDefects';
import { DAY_ORDERS } from '@careful-seam/files/tableCells';
import { useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { z } from 'zod';
import { useChange, useList } from '../../tablet/useList';
import { FileKey } from '../../ui/FileKey';
import { SelectField } from '../../ui/fields';
import { Problem } from '../../ui/Loaded';
import { Sheet } from '../../ui/Sheet';

/** Where tables that were taken are read. */
const TABLES = '/api/old-defects';

/** A table that was chosen, as text. */
interface Chosen {
  name: string;
  text: string;
}

/** The text of a file: UTF-8, else as spreadsheets of one system write it. */
async function textOf(file: File): Promise<string> {
  const bytes = await file.arrayBuffer();
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}

/** What each column holds, which way round days are, and what words mean. */
function Mapping({
  read,
  mapping,
  onMap,
}: {
  read: OldTableRead;
  /** What somebody chose so far, also while its answer is on its way; none while all is as it was found. */
  mapping: OldMappingBody | undefined;
  onMap: (mapping: OldMappingBody) => void;
}) {
  const { t } = useTranslation();
  const columns = mapping?.columns ?? Object.fromEntries(OLD_FIELDS.map((f) => [f, read.columns[f] ?? null]));
  const meanings = mapping?.meanings ?? read.meanings;
  const now: OldMappingBody = { columns, days: mapping?.days, meanings };
  // What was just said to mean something is asked no more, though the answer is on its way.
  const unknown = read.unknown.filter((u) => !meanings.some((m) => m.field === u.field && m.word === u.word));
  const mean = (field: string, word: string, id: string) =>
    onMap({
      ...now,
      meanings: [...meanings.filter((m) => m.field !== field || m.word !== word), { field, word, id }],
    });
  return (
    <>
      <section className="grid grid-cols-2 gap-2">
        <h3 className="col-span-2 font-semibold">{t('across.old.columns')}</h3>
        {read.remembered && <p className="col-span-2 text-soft text-sm">{t('across.old.remembered')}</p>}
        {OLD_FIELDS.map((field) => (
          <SelectField
            key={field}
            label={t(`across.old.field.${field}`)}
            none={OLD_FIELDS_NEEDED.includes(field) ? t('across.old.choose') : t('across.old.noColumn')}
            options={read.heads.map((head, i) => ({
              id: String(i),
              label: head || t('across.old.column', { n: i + 1 }),
            }))}
            value={columns[field] == null ? '' : String(columns[field])}
            onChange={(e) =>
              onMap({ ...now, columns: { ...columns, [field]: e.target.value === '' ? null : Number(e.target.value) } })
            }
          />
        ))}
        <SelectField
          label={t('across.old.days')}
          options={DAY_ORDERS.map((id) => ({ id, label: t(`across.old.order.${id}`) }))}
          value={mapping?.days ?? read.days}
          problem={read.daysSure ? undefined : t('across.old.daysUnsure')}
          onChange={(e) => onMap({ ...now, days: DAY_ORDERS.find((d) => d === e.target.value) })}
        />
      </section>
      {(unknown.length > 0 || meanings.length > 0) && (
        <section className="grid grid-cols-2 gap-2">
          <h3 className="col-span-2 font-semibold">{t('across.old.words')}</h3>
          {meanings.map(({ field, word, id }) => (
            <SelectField
              key={`${field} ${word}`}
              label={t('across.old.word', { field: t(`across.old.field.${field}`), word })}
              none={t('across.old.empty')}
              options={read.names[field] ?? []}
              value={id}
              onChange={(e) => mean(field, word, e.target.value)}
            />
          ))}
          {unknown.map(({ field, word, rows }) => (
            <SelectField
              key={`${field} ${word}`}
              label={t('across.old.wordRows', { field: t(`across.old.field.${field}`), word, count: rows })}
              none={t('across.old.choose')}
              options={[
                ...(OLD_FIELDS_NEEDED.some((f) => f === field) ? [] : [{ id: ' ', label: t('across.old.empty') }]),
                ...(read.names[field] ?? []),
              ]}
              value=""
              onChange={(e) => mean(field, word, e.target.value.trim())}
            />
          ))}
        </section>
      )}
    </>
  );
}

/** What would be taken, and what not. */
function WouldTake({ read }: { read: OldTableRead }) {
  const { t } = useTranslation();
  const { here, taken, recorded } = read.twice;
  return (
    <section className="flex flex-col gap-1" aria-live="polite">
      <p className="font-bold">{t('across.old.would', { count: read.good, rows: read.rows })}</p>
      {here > 0 && <p>{t('across.old.twiceHere', { count: here })}</p>}
      {taken > 0 && <p>{t('across.old.twiceTaken', { count: taken })}</p>}
      {recorded > 0 && <p>{t('across.old.twiceRecorded', { count: recorded })}</p>}
      {read.problemCount > 0 && <p className="text-hold">{t('across.old.problems', { count: read.problemCount })}</p>}
      <ul className="max-h-48 overflow-y-auto">
        {read.problems.map((p) => (
          <li key={`${p.line} ${p.field} ${p.why}`} className="text-sm">
            {t('across.old.problem', {
              line: p.line,
              field: t(`across.old.field.${p.field}`),
              cell: p.cell,
              why: t(`across.old.why.${p.why}`),
            })}
          </li>
        ))}
      </ul>
      {read.preview.length > 0 && (
        <ul className="border-hair border-t pt-1 text-sm" aria-label={t('across.old.preview')}>
          {read.preview.map((row) => (
            <li key={row.line}>
              {[row.found, row.kind, row.crew, row.shower].filter((word) => word !== '').join(' · ')}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** Tables that were taken, each to be taken out again. */
function Taken({ paths }: { paths: readonly string[] }) {
  const { t, i18n } = useTranslation();
  const { data } = useList(OldTables, TABLES);
  const { change, problem, busy } = useChange([TABLES, ...paths]);
  if (!data || data.tables.length === 0) return null;
  return (
    <section className="flex flex-col gap-1 border-hair border-t pt-2">
      <h3 className="font-semibold">{t('across.old.taken')}</h3>
      <Problem text={problem} />
      {data.tables.map((table) => (
        <p key={table.id} className="flex items-center gap-2">
          <span className="flex-1">
            {t('across.old.table', {
              ...table,
              count: table.defects,
              at: new Date(table.at).toLocaleDateString(i18n.language),
            })}
          </span>
          <button
            type="button"
            className="key"
            disabled={busy}
            onClick={() => void change(z.object({}), 'DELETE', `${TABLES}/${table.id}`)}
          >
            {t('across.old.remove')}
          </button>
        </p>
      ))}
    </section>
  );
}

/** Defects of a table that was kept before this program: read, looked at, and taken in as a whole or not at all. */
export function OldDefects({ paths }: { paths: readonly string[] }) {
  const { t, i18n } = useTranslation();
  const { change, problem, busy } = useChange([TABLES, ...paths]);
  const [open, setOpen] = useState(false);
  const [chosen, setChosen] = useState<Chosen | null>(null);
  const [read, setRead] = useState<OldTableRead | null>(null);
  const [mapping, setMapping] = useState<OldMappingBody | undefined>(undefined);
  const [leaveOut, setLeaveOut] = useState(false);
  const [told, setTold] = useState('');
  const language = i18n.language.startsWith('es') ? 'es' : 'en';
  const asked = useRef(0);
  const look = async ({ text }: Chosen, mapped: OldMappingBody | undefined) => {
    asked.current += 1;
    const mine = asked.current;
    const answer = await change(OldTableRead, 'POST', `${TABLES}/look?lang=${language}`, { text, mapping: mapped });
    // Only the last one counts, in whatever order they come.
    if (answer && mine === asked.current) setRead(answer);
  };
  const map = (file: Chosen, mapped: OldMappingBody | undefined) => {
    setMapping(mapped);
    void look(file, mapped);
  };
  const take = async ({ name, text }: Chosen, { columns, days, meanings }: OldTableRead) => {
    const told = mapping ?? { columns, days, meanings };
    const answer = await change(OldTableTaken, 'POST', TABLES, { name, text, mapping: told, leaveOut });
    if (!answer) return;
    setTold(t('across.old.done', { count: answer.taken }));
    setChosen(null);
    setRead(null);
    setLeaveOut(false);
  };
  const bad = read ? read.rows - read.good - read.twice.here - read.twice.taken - read.twice.recorded : 0;
  return (
    <>
      <button type="button" className="key" onClick={() => setOpen(true)}>
        {t('across.old.open')}
      </button>
      {open && (
        <Sheet title={t('across.old.title')} onClose={() => setOpen(false)}>
          <p>{t('across.old.what')}</p>
          <FileKey
            label={chosen ? chosen.name : t('across.old.choose')}
            accept=".csv,.tsv,.txt,text/csv"
            disabled={busy}
            onFile={(file) =>
              void textOf(file).then((text) => {
                const next = { name: file.name.slice(0, 200), text };
                setChosen(next);
                setRead(null);
                setTold('');
                map(next, undefined);
              })
            }
          />
          <Problem text={problem} />
          <p aria-live="polite" className="font-semibold">
            {told}
          </p>
          {chosen && read && (
            <>
              <WouldTake read={read} />
              <Mapping read={read} mapping={mapping} onMap={(mapped) => map(chosen, mapped)} />
              {bad > 0 && (
                <label className="flex min-h-12 items-center gap-2">
                  <input
                    type="checkbox"
                    className="size-5"
                    checked={leaveOut}
                    onChange={(e) => setLeaveOut(e.target.checked)}
                  />
                  {t('across.old.leaveOut', { count: bad })}
                </label>
              )}
              <button
                type="button"
                className="key key-main"
                disabled={busy || read.good === 0 || (bad > 0 && !leaveOut)}
                onClick={() => void take(chosen, read)}
              >
                {t('across.old.take', { count: read.good })}
              </button>
            </>
          )}
          <Taken paths={paths} />
        </Sheet>
      )}
    </>
  );
}
