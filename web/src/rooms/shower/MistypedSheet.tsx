import type { EntryOf } from '@careful-seam/core/log/entry';
import { readingCorrected, type Standing, statementsAt, takenBack } from '@careful-seam/core/log/mistyped';
import type { ShowerState } from '@careful-seam/core/log/state';
import { bareLength, parseLength, showLength } from '@careful-seam/core/units/length';
import { elementName, faceName } from '@careful-seam/words/texts/names';
import { useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useParts } from '../../tablet/store';
import { TextField } from '../../ui/fields';
import { usePreferences } from '../../ui/preferences';
import { Sheet } from '../../ui/Sheet';
import { problemWords } from '../../ui/words';

/** The place that was spoken of. */
interface Props {
  /** The shower that it is written to. */
  showerId: string;
  /** The shower as it stands now. */
  state: ShowerState;
  /** Key of the stage that is looked at. */
  stage: string;
  /** Id of the seam, corner, opening, drain or face. */
  element: string;
  /** Told when it is done with. */
  onClose: () => void;
}

/** The reading as it ought to have been: what was meant, and where. */
function Correct({ reading, lengthMm, onKeep }: CorrectProps) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { valueMm, atMm } = reading.body;
  const [value, setValue] = useState(bareLength(valueMm, unit, 32));
  const [at, setAt] = useState(bareLength(atMm, unit, 32));
  const [problem, setProblem] = useState<string | null>(null);
  const keep = () => {
    const read = parseLength(value, unit, t('pad.value'));
    if (!read.ok) return setProblem(problemWords(read.problem));
    const readAt = lengthMm === null ? null : parseLength(at, unit, t('pad.at'));
    if (readAt && !readAt.ok) return setProblem(problemWords(readAt.problem));
    const where = readAt?.ok ? readAt.value.mm : atMm;
    if (lengthMm !== null && where > lengthMm + 0.8)
      return setProblem(t('pad.beyond', { length: showLength(lengthMm, unit) }));
    onKeep({ valueMm: read.value.mm, typed: value, atMm: lengthMm === null ? atMm : Math.min(where, lengthMm) });
  };
  return (
    <form
      className="grid grid-cols-2 gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        keep();
      }}
    >
      <TextField label={t('mistyped.meant', { unit })} value={value} onChange={(e) => setValue(e.target.value)} />
      {lengthMm !== null && (
        <TextField label={t('mistyped.at', { unit })} value={at} onChange={(e) => setAt(e.target.value)} />
      )}
      {problem && (
        <p role="alert" className="col-span-2 text-hold">
          {problem}
        </p>
      )}
      <button type="submit" className="key key-main col-span-2">
        {t('mistyped.correct')}
      </button>
    </form>
  );
}
/** The reading that was mistyped. */
interface CorrectProps {
  /** As it stands now. */
  reading: EntryOf<'reading'>;
  /** mm of the seam that it lies on; null for what has no length. */
  lengthMm: number | null;
  /** Told of what was meant. */
  onKeep: (meant: Parameters<typeof readingCorrected>[1]) => void;
}

/** One statement in words: what, where, of which check. */
function useWords(state: ShowerState) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const checks = new Map((state.rules?.method.stages ?? []).flatMap((s) => s.checks.map((c) => [c.id, c.label])));
  const label = (id: string) => checks.get(id) ?? id;
  return ({ kind, body }: Standing['statement']): string => {
    if (kind === 'note') return body.words;
    if (kind === 'look')
      return t('mistyped.look', { answer: t(`answer.${body.answer}`), checks: body.checks.map(label).join(', ') });
    const { side } = body.place;
    const value = showLength(body.valueMm, unit, 32);
    const words = state.seamById.has(body.place.element)
      ? t('mistyped.reading', { check: label(body.check), value, at: showLength(body.atMm, unit, 32) })
      : t('mistyped.figure', { check: label(body.check), value });
    return side ? `${words}, ${t('side', { part: faceName(t, state.geometry!.model, side) })}` : words;
  };
}

/** One statement, with the ways to put right what was a slip of the finger. */
function StatementLine({ standing, state, element, write }: LineProps) {
  const { t, i18n } = useTranslation();
  const words = useWords(state);
  const [open, setOpen] = useState(false);
  const { statement, first, mayCorrect } = standing;
  const when = new Date(statement.observedAt).toLocaleString(i18n.language, {
    dateStyle: 'medium',
    timeStyle: 'short',
  });
  const reason = t('mistyped.reason');
  return (
    <li className="flex flex-col gap-1 border-hair border-b pb-2">
      <p>
        {words(statement)}
        <span className="block text-soft text-sm">
          {t('mistyped.by', { name: statement.author.name, when })}
          {first && ` ${t('mistyped.was', { words: words(first) })}`}
        </span>
      </p>
      {mayCorrect ? (
        <div className="flex flex-wrap gap-1.5">
          {statement.kind === 'reading' && (
            <button type="button" className="key" aria-expanded={open} onClick={() => setOpen(!open)}>
              {t('mistyped.mistyped')}
            </button>
          )}
          <button type="button" className="key" onClick={() => write(takenBack(statement, element, reason))}>
            {t(statement.kind === 'reading' ? 'mistyped.never' : 'mistyped.takeBack')}
          </button>
        </div>
      ) : (
        <p className="text-soft text-sm">{t('mistyped.others', { name: statement.author.name })}</p>
      )}
      {open && statement.kind === 'reading' && (
        <Correct
          reading={statement}
          lengthMm={state.seamById.get(element)?.lengthMm ?? null}
          onKeep={(meant) => {
            write(readingCorrected(statement, meant, reason));
            setOpen(false);
          }}
        />
      )}
    </li>
  );
}
/** A statement in its place. */
interface LineProps extends Pick<Props, 'state' | 'element'> {
  /** What was said. */
  standing: Standing;
  /** Writes a correction. */
  write: (body: ReturnType<typeof takenBack>) => void;
}

/** All that was said of a place at a stage, the newest first: what was mistyped is corrected, at any time; the record keeps what it was. */
export function MistypedSheet({ showerId, state, stage, element, onClose }: Props) {
  const { t } = useTranslation();
  const { showers, person, write } = useParts('showers', 'person', 'write');
  const shower = showers.get(showerId);
  const statements = useMemo(() => {
    if (!shower || !person) return [];
    const entries = shower.entries.flatMap((e) => shower.parsed.get(e.hash) ?? []);
    return statementsAt(entries, stage, element, { id: person.id, role: person.role });
  }, [shower, person, stage, element]);
  return (
    <Sheet title={t('mistyped.title', { place: elementName(t, state.geometry!.model, element) })} onClose={onClose}>
      <p className="text-soft">{t('mistyped.means')}</p>
      {statements.length === 0 && <p>{t('mistyped.nothing')}</p>}
      <ul className="flex flex-col gap-2">
        {statements.map((one) => (
          <StatementLine
            key={one.statement.id}
            standing={one}
            state={state}
            element={element}
            write={(body) => void write(showerId, 'correction', body)}
          />
        ))}
      </ul>
    </Sheet>
  );
}
