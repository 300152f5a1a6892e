import { type LimitChange, PutLimits } from '@careful-seam/contract/api/office';
import type { MeasuredCheck, RuleBook } from '@careful-seam/core/rules/ruleBook';
import { parseLength, showLength } from '@careful-seam/core/units/length';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { usePreferences } from '../state/preferences';
import { useStore } from '../state/store';
import { Problem } from './Loaded';
import { useChange } from './useList';

interface Line {
  key: string;
  where: Pick<LimitChange, 'method' | 'stage' | 'check'>;
  stage: string;
  check: MeasuredCheck;
}

function linesOf(book: RuleBook, method: string): Line[] {
  const stages = book.methods.find((m) => m.key === method)?.stages ?? [];
  return stages.flatMap((stage) =>
    stage.checks
      .filter((check) => check.kind === 'measured')
      .map((check) => ({
        key: `${method} ${stage.key} ${check.id}`,
        where: { method, stage: stage.key, check: check.id },
        stage: stage.label,
        check,
      })),
  );
}

type Bound = 'atLeastMm' | 'atMostMm';

/** The limits of what is measured, method by method; kept together as one new version of the rule book. */
export function Limits({ book }: { book: RuleBook }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const sync = useStore((s) => s.sync);
  const { change, problem, busy } = useChange([]);
  const [method, setMethod] = useState(book.methods[0]!.key);
  const [typed, setTyped] = useState<Record<string, string>>({});
  const lines = book.methods.flatMap((m) => linesOf(book, m.key));
  const textOf = (line: Line, bound: Bound) => {
    const mm = line.check.limit[bound];
    return typed[`${line.key} ${bound}`] ?? (mm === undefined ? '' : showLength(mm, unit, 32));
  };
  /** mm, null for none, or undefined when it can't be read. */
  const read = (line: Line, bound: Bound): number | null | undefined => {
    const text = typed[`${line.key} ${bound}`];
    if (text === undefined) return line.check.limit[bound] ?? null;
    if (text.trim() === '') return null;
    const length = parseLength(text, unit);
    return length.ok ? length.value.mm : undefined;
  };
  const wrong = (line: Line): boolean => {
    const [least, most] = [read(line, 'atLeastMm'), read(line, 'atMostMm')];
    if (least === undefined || most === undefined) return true;
    return (least === null && most === null) || (least !== null && most !== null && least > most);
  };
  const changed = lines.filter((l) =>
    (['atLeastMm', 'atMostMm'] as const).some((b) => typed[`${l.key} ${b}`] !== undefined),
  );
  const keep = async () => {
    const limits = changed.map((l) => ({ ...l.where, atLeastMm: read(l, 'atLeastMm'), atMostMm: read(l, 'atMostMm') }));
    if (await change(PutLimits, 'PUT', '/api/firm/limits', { limits })) setTyped({});
    await sync();
  };
  return (
    <section className="flex flex-col gap-2">
      <h2 className="font-bold text-lg">{t('limits.title')}</h2>
      <select
        className="field"
        aria-label={t('limits.method')}
        value={method}
        onChange={(e) => setMethod(e.target.value)}
      >
        {book.methods.map((m) => (
          <option key={m.key} value={m.key}>
            {m.label}
          </option>
        ))}
      </select>
      <ul>
        {linesOf(book, method).map((line) => (
          <li key={line.key} className="grid grid-cols-[1fr_7rem_7rem] items-center gap-2 border-hair border-b py-1">
            <p className="text-sm leading-tight">
              {line.check.label}
              <span className="block text-soft">
                {line.stage}. {line.check.source}
              </span>
              {wrong(line) && <span className="block text-hold">{t('limits.wrong')}</span>}
            </p>
            {(['atLeastMm', 'atMostMm'] as const).map((bound) => (
              <input
                key={bound}
                className="field"
                aria-label={t(`limits.${bound}`, { check: line.check.label })}
                placeholder={t(`limits.none.${bound}`)}
                value={textOf(line, bound)}
                aria-invalid={wrong(line)}
                onChange={(e) => setTyped({ ...typed, [`${line.key} ${bound}`]: e.target.value })}
              />
            ))}
          </li>
        ))}
      </ul>
      <p className="text-soft text-sm">{t('limits.means', { version: book.version })}</p>
      <Problem text={problem} />
      <button
        type="button"
        className="key self-start"
        disabled={busy || changed.length === 0 || changed.some(wrong)}
        onClick={() => void keep()}
      >
        {t('limits.keep', { count: changed.length })}
      </button>
    </section>
  );
}
