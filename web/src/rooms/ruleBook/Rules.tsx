import { RuleBookAnswer } from '@careful-seam/contract/api/messages';
import { BookList } from '@careful-seam/contract/api/office';
import { changesFor, compareBooks } from '@careful-seam/core/proof/shown/compareBooks';
import { checkBook } from '@careful-seam/core/rules/checkBook';
import type { Check } from '@careful-seam/core/rules/checks/check';
import { type Method, RuleBook } from '@careful-seam/core/rules/ruleBook';
import { textIn, translateBook, withTextIn } from '@careful-seam/core/rules/translateBook';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useSearchParams } from 'react-router';
import { isAsked } from '../../shared/answering';
import { DifferenceList } from '../../shared/DifferenceList';
import { DraftLine } from '../../shared/DraftLine';
import { useLanguage } from '../../shared/language';
import { pinnedTo } from '../../shared/OfferedBook';
import { useDraft } from '../../shared/useDraft';
import { call } from '../../tablet/api';
import { useParts, useStore } from '../../tablet/store';
import { useChange, useList } from '../../tablet/useList';
import { FileKey } from '../../ui/FileKey';
import { Loaded, Problem } from '../../ui/Loaded';
import { saveFile } from '../../ui/saveFile';
import { problemWords } from '../../ui/words';
import { CheckEditor } from './CheckEditor';
import { Families } from './Families';
import { ProductLines } from './ProductLines';
import { Questions } from './Questions';

/** Every open shower whose unreleased stages the newest version would ask something else of. */
function Touched({ newest }: { newest: RuleBook }) {
  const { t } = useTranslation();
  const { showers, write } = useParts('showers', 'write');
  const touched = [...showers.values()].flatMap((shower) => {
    const count = changesFor(shower.state, newest).length;
    return count > 0 ? [{ shower, count }] : [];
  });
  return (
    <section data-testid="touched">
      <h3 className="font-bold">{t('rules.touched', { count: touched.length, version: newest.version })}</h3>
      <p className="text-soft text-sm">{t('rules.touchedMeans')}</p>
      <ul>
        {touched.map(({ shower, count }) => (
          <li key={shower.id} className="flex items-center gap-2 border-hair border-b py-1">
            <span className="flex-1">
              <span className="font-semibold">{shower.state.created?.body.name}</span>{' '}
              <span className="text-soft text-sm">
                {t('rules.touchedLine', { count, version: shower.state.rules!.book.version })}
              </span>
            </span>
            <button
              type="button"
              className="key px-2 text-sm"
              onClick={() => void write(shower.id, 'rules-pinned', pinnedTo(shower, newest))}
            >
              {t('rules.take', { version: newest.version })}
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** An earlier version beside the draft: what is asked otherwise. */
function Compared({ draft, version }: { draft: RuleBook; version: number }) {
  const { t } = useTranslation();
  const language = useLanguage();
  const path = `/api/rule-books/${draft.id}/${version}`;
  const answer = useQuery({ queryKey: [path], queryFn: () => call(RuleBookAnswer, 'GET', path) });
  return (
    <Loaded answer={answer}>
      {({ book }) => {
        const now = translateBook(draft, language);
        const { checks, choices, lines, families } = compareBooks(translateBook(book, language), now);
        return (
          <section data-testid="compared">
            <h3 className="font-bold">
              {t('rules.compared', { version, count: checks.length + choices.length + lines.length + families.length })}
            </h3>
            <DifferenceList differences={checks} />
            <ul>
              {lines.map((l) => (
                <li key={(l.after ?? l.before)!.id} className="text-sm">
                  {t(l.before === null ? 'lines.added' : l.after === null ? 'lines.gone' : 'lines.changed', {
                    name: (l.after ?? l.before)!.name,
                  })}
                </li>
              ))}
              {families.map((name) => (
                <li key={name} className="text-sm">
                  {t('lines.changed', { name })}
                </li>
              ))}
              {choices.map((c) => (
                <li key={c.question} className="text-sm">
                  {now.disagreements.find((d) => d.id === c.question)?.question}:{' '}
                  {t('rules.fromTo', { from: c.before ?? t('rules.shippedWay'), to: c.after ?? t('rules.shippedWay') })}
                </li>
              ))}
            </ul>
          </section>
        );
      }}
    </Loaded>
  );
}

/** The stage of a method that asks the most: where a reader of its rules most likely wants to begin. */
const mostAsked = (method: Method): string =>
  method.stages.reduce((most, stage) => (stage.checks.length > most.checks.length ? stage : most)).key;

/** A draft of the next version: what is shown of it, and what it says otherwise than the newest. */
function useEditing(newest: RuleBook) {
  const left = useDraft({ kind: 'rules', element: `${newest.id} ${newest.version}` }, RuleBook, newest);
  const [draft, setDraft] = useState(left.start);
  const { hold } = left;
  useEffect(() => {
    hold(draft);
  }, [hold, draft]);
  // A question across crews leads to the stage that it is about.
  const [asked] = useSearchParams();
  const first = newest.methods.find((m) => m.key === asked.get('method')) ?? newest.methods[0]!;
  const [method, setMethod] = useState(first.key);
  const [stage, setStage] = useState(() => asked.get('stage') ?? mostAsked(first));
  const [list, setList] = useState<'checks' | 'products' | 'families'>('checks');
  const [against, setAgainst] = useState<number | null>(null);
  const [fileProblem, setFileProblem] = useState<string | null>(null);
  const language = useLanguage();
  const say = (text: string) => textIn(draft, language, text);
  // Compared as they are read: words that were changed in this language count too.
  const difference = useMemo(
    () => compareBooks(translateBook(newest, language), translateBook(draft, language)),
    [newest, draft, language],
  );
  const { checks, choices, lines, families } = difference;
  const count = checks.length + choices.length + lines.length + families.length;
  const sound = useMemo(() => checkBook(draft), [draft]);
  const here = draft.methods.find((m) => m.key === method)!;
  const shown = here.stages.find((s) => s.key === stage) ?? here.stages[0]!;
  const setChecks = (edit: (checks: Check[]) => Check[]) =>
    setDraft({
      ...draft,
      methods: draft.methods.map((m) =>
        m.key === method
          ? { ...m, stages: m.stages.map((s) => (s.key === shown.key ? { ...s, checks: edit(s.checks) } : s)) }
          : m,
      ),
    });
  const readFile = async (file: File) => {
    const json = await file
      .text()
      .then(JSON.parse)
      .catch(() => null);
    const read = checkBook(json);
    setFileProblem(read.ok ? null : problemWords(read.problem));
    if (read.ok) setDraft({ ...read.value, version: newest.version });
  };
  return {
    left,
    draft,
    setDraft,
    method,
    setMethod,
    here,
    shown,
    setStage,
    setChecks,
    list,
    setList,
    against,
    setAgainst,
    fileProblem,
    readFile,
    language,
    say,
    count,
    sound,
  };
}

/** What is changed, and the key that publishes it. */
interface HeadProps {
  /** The rule book that holds now. */
  newest: RuleBook;
  /** The draft, with what differs. */
  editing: ReturnType<typeof useEditing>;
  /** It is being published. */
  busy: boolean;
  /** Publishes the draft as the next version. */
  onPublish: () => void;
}

/** The version in force, another one beside it, the draft as a file, and its publishing. */
function DraftHead({ newest, editing, busy, onPublish }: HeadProps) {
  const { t } = useTranslation();
  const list = useList(BookList, '/api/rule-books');
  const { draft, against, setAgainst, readFile, say, count, sound } = editing;
  return (
    <div className="flex flex-wrap items-center gap-2">
      <p className="flex-1">{t('rules.inForce', { title: say(newest.title) })}</p>
      <select
        className="field w-auto text-base"
        aria-label={t('rules.compareWith')}
        value={against ?? ''}
        onChange={(e) => setAgainst(e.target.value === '' ? null : Number(e.target.value))}
      >
        <option value="">{t('rules.compareWith')}</option>
        {list.data?.books.map((b) => (
          <option key={b.version} value={b.version}>
            {t('rules.version', { version: b.version })}
          </option>
        ))}
      </select>
      <button
        type="button"
        className="key"
        onClick={() =>
          saveFile(JSON.stringify(draft, null, 1), 'application/json', `${draft.id}-${newest.version}.json`)
        }
      >
        {t('rules.takeOut')}
      </button>
      <FileKey label={t('rules.readIn')} accept="application/json,.json" onFile={(file) => void readFile(file)} />
      <button type="button" className="key key-main" disabled={busy || count === 0 || !sound.ok} onClick={onPublish}>
        {t('rules.publish', { version: newest.version + 1, count })}
      </button>
    </div>
  );
}

/** The rule book as a draft of its next version. */
function Editor({ newest }: { newest: RuleBook }) {
  const { t } = useTranslation();
  const sync = useStore((s) => s.sync);
  const { change, problem, busy } = useChange(['/api/rule-books', '/api/rule-books/newest']);
  const editing = useEditing(newest);
  const { draft, setDraft, method, setMethod, here, shown, setStage, setChecks, say, language, sound } = editing;
  const { list, setList, against, fileProblem } = editing;
  const publish = async () => {
    if (await change(RuleBookAnswer, 'PUT', '/api/rule-books', { book: draft, basedOn: newest.version })) {
      editing.left.drop();
      await sync();
    }
  };
  return (
    <div className="flex h-full min-h-0 flex-col gap-2">
      <DraftHead newest={newest} editing={editing} busy={busy} onPublish={() => void publish()} />
      <DraftLine draft={editing.left} onAnew={() => setDraft(newest)} />
      <Problem text={problem ?? fileProblem ?? (sound.ok ? null : problemWords(sound.problem))} />
      <div className="grid min-h-0 flex-1 grid-cols-[14rem_1fr] gap-4 max-md:grid-cols-1">
        <div className="flex min-h-0 flex-col gap-1 overflow-y-auto">
          <button
            type="button"
            className="key text-left"
            aria-pressed={list === 'products'}
            onClick={() => setList('products')}
          >
            {t('lines.title')} ({draft.productLines.length})
          </button>
          <button
            type="button"
            className="key text-left"
            aria-pressed={list === 'families'}
            onClick={() => setList('families')}
          >
            {t('families.title')}
          </button>
          <select
            className="field px-1 text-base"
            aria-label={t('rules.method')}
            value={method}
            onChange={(e) => setMethod(e.target.value)}
          >
            {draft.methods.map((m) => (
              <option key={m.key} value={m.key}>
                {say(m.label)}
              </option>
            ))}
          </select>
          {here.stages.map((s) => (
            <button
              type="button"
              key={s.key}
              className="key text-left"
              aria-pressed={list === 'checks' && s.key === shown.key}
              onClick={() => {
                setStage(s.key);
                setList('checks');
              }}
            >
              {s.order}. {say(s.label)} ({s.checks.filter(isAsked).length})
            </button>
          ))}
        </div>
        <div className="relative min-h-0 overflow-y-auto">
          {against !== null && <Compared draft={draft} version={against} />}
          {list === 'products' && <ProductLines draft={draft} onChange={setDraft} />}
          {list === 'families' && <Families draft={draft} say={say} language={language} onChange={setDraft} />}
          <ul className={list === 'checks' ? '' : 'hidden'}>
            {shown.checks.map((check) =>
              !isAsked(check) ? null : (
                <CheckEditor
                  key={`${method} ${shown.key} ${check.id}`}
                  check={check}
                  say={say}
                  onLabel={(said) =>
                    language === 'en'
                      ? setChecks((checks) => checks.map((c) => (c.id === check.id ? { ...c, label: said } : c)))
                      : setDraft(withTextIn(draft, language, check.label, said))
                  }
                  onChange={(next) => setChecks((checks) => checks.map((c) => (c.id === check.id ? next : c)))}
                  onRemove={() => setChecks((checks) => checks.filter((c) => c.id !== check.id))}
                />
              ),
            )}
          </ul>
          {list === 'checks' && (
            <Questions draft={draft} say={say} method={method} stage={shown.key} onChange={setDraft} />
          )}
          <Touched newest={newest} />
        </div>
      </div>
    </div>
  );
}

/** The rule book in the office: read, compared, changed, published; and which open showers a change touches. */
export function Rules() {
  const answer = useList(RuleBookAnswer, '/api/rule-books/newest');
  return <Loaded answer={answer}>{({ book }) => <Editor key={book.version} newest={book} />}</Loaded>;
}
