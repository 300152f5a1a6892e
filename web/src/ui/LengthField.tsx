import { parseLength, showLength } from '@careful-seam/core/units/length';
import type { ShownUnit } from '@careful-seam/words/sentences/sentences';
import { useEffect, useId, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { problemWords } from './words';

/** The length that is typed, with steps to either side. */
interface Props {
  /** What it asks for, in words. */
  label: string;
  /** In what lengths are typed and shown. */
  unit: ShownUnit;
  /** Its value, mm. */
  mm: number;
  /** It can be no larger, mm. */
  most: number;
  /** Told of a value that can be, mm. */
  onMm: (mm: number) => void;
  /** mm of one press of plus or minus; an inch or 20 mm by default. */
  step?: number;
}

/** A length without its unit. */
const shown = (mm: number, unit: ShownUnit): string => showLength(mm, unit).replace(/ (in|mm)$/, '');

/** A length typed as people write it, with plus and minus; what was typed stays until it can be read. */
export function LengthField({ label, unit, mm, most, onMm, step = unit === 'in' ? 25.4 : 20 }: Props) {
  const { t } = useTranslation();
  const id = useId();
  const [text, setText] = useState(shown(mm, unit));
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    setText(shown(mm, unit));
    setProblem(null);
  }, [mm, unit]);
  const take = (raw: string) => {
    const read = parseLength(raw, unit, label);
    if (!read.ok) return setProblem(problemWords(read.problem));
    if (read.value.mm > most + 0.8) return setProblem(t('length.tooLong', { most: showLength(most, unit) }));
    setProblem(null);
    onMm(Math.min(read.value.mm, most));
  };
  return (
    <div>
      <label htmlFor={id} className="text-soft text-sm">
        {label}
      </label>
      <div className="flex gap-1">
        <button
          type="button"
          className="key flex-none px-0"
          aria-label={t('length.less', { label })}
          onClick={() => onMm(Math.max(0, mm - step))}
        >
          −
        </button>
        <input
          id={id}
          className="field min-w-0 text-center font-bold text-lg"
          inputMode="text"
          value={text}
          aria-invalid={problem !== null}
          aria-describedby={problem === null ? undefined : `${id}-wrong`}
          onChange={(e) => setText(e.target.value)}
          onBlur={(e) => take(e.target.value)}
          onKeyDown={(e) => e.key === 'Enter' && take(e.currentTarget.value)}
        />
        <button
          type="button"
          className="key flex-none px-0"
          aria-label={t('length.more', { label })}
          onClick={() => onMm(Math.min(most, mm + step))}
        >
          +
        </button>
      </div>
      {problem && (
        <p id={`${id}-wrong`} role="alert" className="text-hold text-sm">
          {problem}
        </p>
      )}
    </div>
  );
}
