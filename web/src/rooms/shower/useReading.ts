import { readingFails } from '@careful-seam/core/checks/measured';
import { placeOf } from '@careful-seam/core/checks/place';
import type { Judgement } from '@careful-seam/core/log/judgement';
import type { ShowerState } from '@careful-seam/core/log/state';
import { weakestPlace } from '@careful-seam/core/membrane/laps';
import { tapePlace } from '@careful-seam/core/membrane/tapePlace';
import { defectToJoin } from '@careful-seam/core/proof/fold/foldEvidence';
import { isOf } from '@careful-seam/core/rules/checks/check';
import type { MeasuredCheck } from '@careful-seam/core/rules/checks/measured';
import { bareLength, MM_PER_INCH, parseLength, showLength } from '@careful-seam/core/units/length';
import { type Doubt, doubtOf } from '@careful-seam/core/units/likelyMeant';
import { useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useStore } from '../../tablet/store';
import { usePreferences } from '../../ui/preferences';
import { problemWords } from '../../ui/words';

/** A hand puts a tape on a whole inch (or centimetre), not on a sixteenth. */
export const tapeMarkMm = (unit: 'in' | 'mm'): number => (unit === 'mm' ? 10 : MM_PER_INCH);

/** Where the next reading is proposed, mm: where the pattern asks for it, and once that is met, the place that is known the least. */
function proposedPlace({ requirement, readings, nextAtMm }: Judgement, check: MeasuredCheck, unit: 'in' | 'mm') {
  const { lengthMm, hasLength } = requirement;
  if (!hasLength) return 0;
  const markMm = tapeMarkMm(unit);
  const taken = readings.map((r) => Math.min(r.atMm, lengthMm));
  if (nextAtMm !== null) return tapePlace({ lengthMm, pattern: check.pattern, taken, nextAtMm, markMm });
  const weakest = weakestPlace(
    readings.map((r) => ({ atMm: r.atMm, lapMm: r.valueMm! })),
    lengthMm,
  );
  return Math.min(lengthMm, weakest ? Math.round(weakest.atMm / markMm) * markMm : lengthMm / 2);
}

/** How a requirement stands, with its next place where a hand sets the tape: what is said, drawn and proposed is one place. */
export function atTapeMark(j: Judgement, unit: 'in' | 'mm'): Judgement {
  const { check, hasLength } = j.requirement;
  if (j.nextAtMm === null || !hasLength || !isOf(check, 'measured')) return j;
  return { ...j, nextAtMm: proposedPlace(j, check, unit) };
}

/** A reading that was kept just now. */
export interface KeptReading {
  /** Id of its entry. */
  entry: string;
  /** What was read, mm. */
  valueMm: number;
}

/** What is typed and where, and the ways to keep it: the state of a pad that reads one check on one side. */
export function useReading(
  showerId: string,
  state: ShowerState,
  now: Judgement,
  check: MeasuredCheck,
  onKept?: (kept: KeptReading) => void,
) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const write = useStore((s) => s.write);
  const { requirement } = now;
  const { lengthMm, hasLength } = requirement;
  const [text, setText] = useState('');
  const [atMm, setAtMm] = useState<number | null>(null);
  const [atText, setAtText] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  /** The figure that is being written, until it is on the tablet or another one is typed. */
  const [writing, setWriting] = useState<string | null>(null);
  /** What was typed is asked about before it is kept. */
  const [doubt, setDoubt] = useState<(Doubt & { typed: string }) | null>(null);
  const typings = useRef(0);
  const place = Math.min(lengthMm, atMm ?? proposedPlace(now, check, unit));

  const type = (next: string) => {
    typings.current += 1;
    setWriting(null);
    setDoubt(null);
    setText(next);
  };
  /** The place that is meant, mm; null where it can't be read or lies beyond the seam, which is then said. */
  const placeMeant = (): number | null => {
    let at = place;
    if (atText !== null) {
      const read = parseLength(atText, unit, t('pad.at'));
      if (!read.ok) {
        setProblem(problemWords(read.problem));
        return null;
      }
      at = read.value.mm;
    }
    if (!hasLength) return 0;
    if (at > lengthMm + 0.8) {
      setProblem(t('pad.beyond', { length: showLength(lengthMm, unit) }));
      return null;
    }
    return Math.min(at, lengthMm);
  };
  /** Writes a value at the place that is meant; nothing where either can't be read. */
  const keep = async (typed: string): Promise<void> => {
    if (writing !== null) return;
    const read = parseLength(typed, unit, t('pad.value'));
    if (!read.ok) return setProblem(problemWords(read.problem));
    const found = doubtOf(typed, unit, { atLeast: check.limit.atLeastMm, atMost: check.limit.atMostMm });
    // Said again it is meant.
    if (found && doubt?.typed !== typed) return setDoubt({ ...found, typed });
    setDoubt(null);
    const at = placeMeant();
    if (at === null) return;
    setProblem(null);
    const joins = readingFails(check, read.value.mm)
      ? defectToJoin(state, requirement.stage.key, check, requirement.element)
      : null;
    // The figure leaves the pad once it is on the tablet: what vanishes is kept, what could not be written still stands.
    const typing = typings.current;
    setWriting(typed);
    try {
      const entry = await write(showerId, 'reading', {
        stage: requirement.stage.key,
        check: check.id,
        place: placeOf(state, requirement.element, requirement.side ? { side: requirement.side } : {}),
        atMm: at,
        valueMm: read.value.mm,
        typed: typed.slice(0, 40),
        instrument: check.instrument,
        // A run of bad readings is one defect with all its places.
        ...(joins ? { defect: joins.id } : {}),
      });
      if (typings.current === typing) type('');
      setAtMm((before) => (before === atMm ? null : before));
      setAtText((before) => (before === atText ? null : before));
      onKept?.({ entry, valueMm: read.value.mm });
    } catch {
      // The store says why.
      setWriting(null);
    }
  };
  const step = (by: number) => {
    setAtText(null);
    setAtMm(Math.max(0, Math.min(lengthMm, place + by)));
  };
  return {
    text,
    writing,
    problem,
    doubt,
    type,
    keep,
    /** The place as it stands in its field. */
    at: atText ?? bareLength(place, unit),
    setAt: setAtText,
    /** Moves the place along the seam by a mark of the tape, on or back. */
    stepOn: () => step(tapeMarkMm(unit)),
    stepBack: () => step(-tapeMarkMm(unit)),
  };
}
