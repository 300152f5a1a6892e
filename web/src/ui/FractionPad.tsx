import { bareLength, MM_PER_INCH, parseLength } from '@careful-seam/core/units/length';
import type { ShownUnit } from '@careful-seam/words/sentences/sentences';
import type { ReactNode } from 'react';
import { useTranslation } from 'react-i18next';

/** The length that is typed. */
interface Props {
  /** In what lengths are typed and shown. */
  unit: ShownUnit;
  /** About how large the value will be: heights get keys of their own. */
  aboutMm: number;
  /** What is typed so far. */
  text: string;
  /** Told of every key. */
  onText: (text: string) => void;
  /** The small step, mm; a sixteenth of an inch, or a millimetre, without it. */
  stepMm?: number;
  /** The key that keeps the value: it stands between the small steps. */
  children: ReactNode;
}

/** Above this the whole-inch keys change from laps to heights on a wall. */
const TALL_MM = 300;
/** Whole inches of a lap. */
const LOW_INCHES = [0, 1, 2, 3, 4, 5, 6];
/** Whole inches of heights on a wall. */
const TALL_INCHES = [48, 60, 70, 72, 78, 84, 96];
/** Tens of millimetres of a lap. */
const LOW_TENS = [3, 4, 5, 6, 7];
/** Tens of millimetres of heights on a wall. */
const TALL_TENS = [120, 180, 200, 210, 240];
/** The finest mark of a tape, mm. */
const SIXTEENTH_MM = 25.4 / 16;
/** The value typed so far in mm; half-typed text counts as nothing yet. */
export function readPad(text: string, unit: ShownUnit): number | null {
  const read = parseLength(text, unit);
  return read.ok ? read.value.mm : null;
}

/** An inch of rule, an eighth under each thumb. */
function EighthRule({ mm, empty, onEighth }: { mm: number; empty: boolean; onEighth: (eighth: number) => void }) {
  const sixteenths = Math.round(mm / SIXTEENTH_MM) % 16;
  return (
    <div className="relative max-sm:-mx-3">
      <div className="grid grid-cols-8 border border-edge bg-rule text-rule-ink">
        {Array.from({ length: 8 }, (_, k) => k).map((k) => (
          <button
            type="button"
            key={k}
            onClick={() => onEighth(k)}
            className="relative h-16 cursor-pointer touch-manipulation"
            aria-label={k === 0 ? '0' : bareLength((k * 25.4) / 8, 'in')}
          >
            <span
              aria-hidden="true"
              className={`absolute top-0 left-1/2 w-0.5 bg-rule-ink ${k === 0 ? 'h-9' : k === 4 ? 'h-7' : k % 2 === 0 ? 'h-5' : 'h-3.5'}`}
            />
            <span
              aria-hidden="true"
              className={`absolute right-0 bottom-1 left-0 text-center ${k % 2 === 0 ? 'font-bold text-base' : 'text-xs'}`}
            >
              {k === 0 ? '0' : bareLength((k * 25.4) / 8, 'in')}
            </span>
          </button>
        ))}
      </div>
      {!empty && (
        <span
          aria-hidden="true"
          className="pointer-events-none absolute -top-1.5 h-10 w-1 bg-water"
          style={{ left: `calc(${((sixteenths / 2 + 0.5) / 8) * 100}% - 2px)` }}
        />
      )}
    </div>
  );
}

/** Rule and whole inches. */
function InchKeys({
  mm,
  empty,
  keys,
  set,
}: {
  mm: number;
  empty: boolean;
  keys: readonly number[];
  set: (mm: number) => void;
}) {
  const { t } = useTranslation();
  const sixteenths = Math.round(mm / SIXTEENTH_MM);
  const whole = Math.floor(sixteenths / 16);
  const part = sixteenths % 16;
  return (
    <>
      <EighthRule mm={mm} empty={empty} onEighth={(eighth) => set((whole * 16 + eighth * 2) * SIXTEENTH_MM)} />
      <fieldset className="grid grid-cols-7 gap-1" aria-label={t('pad.inches')}>
        {keys.map((n) => (
          <button
            type="button"
            key={n}
            className="key px-0 text-lg"
            aria-pressed={!empty && whole === n}
            onClick={() => set((n * 16 + part) * SIXTEENTH_MM)}
          >
            {n}
          </button>
        ))}
      </fieldset>
    </>
  );
}

/** Tens and single millimetres. */
function MetricKeys({
  mm,
  empty,
  tensKeys,
  set,
}: {
  mm: number;
  empty: boolean;
  tensKeys: readonly number[];
  set: (mm: number) => void;
}) {
  const { t } = useTranslation();
  const whole = Math.round(mm);
  const tens = Math.floor(whole / 10);
  return (
    <>
      <fieldset className="grid grid-cols-5 gap-1" aria-label={t('pad.tens')}>
        {tensKeys.map((n) => (
          <button
            type="button"
            key={n}
            className="key px-0 text-lg"
            aria-pressed={!empty && tens === n}
            onClick={() => set(n * 10 + (whole % 10))}
          >
            {n}0
          </button>
        ))}
      </fieldset>
      <fieldset className="grid grid-cols-5 gap-1" aria-label={t('pad.millimetres')}>
        {[0, 1, 2, 3, 4, 5, 6, 7, 8, 9].map((n) => (
          <button
            type="button"
            key={n}
            className="key px-0 text-lg"
            aria-pressed={!empty && whole % 10 === n}
            onClick={() => set(tens * 10 + n)}
          >
            {n}
          </button>
        ))}
      </fieldset>
    </>
  );
}

/** The steps of a gauge by the name of one of them on its key: a thirty-second, a sixteenth or a whole millimetre. */
const STEP_WORDS = { '1/32': 'Fine', '1/16': '', '1': 'Mm' } as const;

/** A length under a gloved thumb: a piece of rule for eighths, plus and minus the gauge's step, whole inches. */
export function FractionPad({ unit, aboutMm, text, onText, stepMm, children }: Props) {
  const { t } = useTranslation();
  const mm = readPad(text, unit) ?? 0;
  const empty = text.trim() === '';
  const tall = aboutMm > TALL_MM;
  const isFine = unit === 'in' && stepMm !== undefined && stepMm < SIXTEENTH_MM - 1e-6;
  const set = (value: number) => onText(bareLength(value, unit, isFine ? 32 : undefined));
  const stepBy = unit === 'mm' ? 1 : isFine ? MM_PER_INCH / 32 : SIXTEENTH_MM;
  const step = (by: number) => set(Math.max(0, Math.round(mm / stepBy) + by) * stepBy);
  const shownStep = unit === 'mm' ? '1' : isFine ? '1/32' : '1/16';
  return (
    <div className="flex flex-col gap-1.5">
      {unit === 'in' ? (
        <InchKeys mm={mm} empty={empty} keys={tall ? TALL_INCHES : LOW_INCHES} set={set} />
      ) : (
        <MetricKeys mm={mm} empty={empty} tensKeys={tall ? TALL_TENS : LOW_TENS} set={set} />
      )}
      <div className="grid grid-cols-[3.5rem_1fr_3.5rem] gap-1.5">
        <button
          type="button"
          className="key px-0"
          onClick={() => step(-1)}
          aria-label={t(`pad.less${STEP_WORDS[shownStep]}`)}
        >
          −{shownStep}
        </button>
        {children}
        <button
          type="button"
          className="key px-0"
          onClick={() => step(1)}
          aria-label={t(`pad.more${STEP_WORDS[shownStep]}`)}
        >
          +{shownStep}
        </button>
      </div>
    </div>
  );
}
