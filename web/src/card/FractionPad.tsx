import type { ShownUnit } from '@careful-seam/contract/texts/sentences';
import { parseLength, showLength } from '@careful-seam/core/units/length';
import { useTranslation } from 'react-i18next';

interface Props {
  unit: ShownUnit;
  /** About how large the value will be: heights get keys of their own. */
  aboutMm: number;
  text: string;
  onText: (text: string) => void;
  last: readonly number[];
}

/** Above this the whole-inch keys change from laps to heights on a wall. */
const TALL_MM = 300;
const LOW_INCHES = [0, 1, 2, 3, 4, 5, 6];
const TALL_INCHES = [48, 60, 70, 72, 78, 84, 96];
const LOW_TENS = [3, 4, 5, 6, 7];
const TALL_TENS = [120, 180, 200, 210, 240];
const SIXTEENTH_MM = 25.4 / 16;
const bare = (mm: number, unit: ShownUnit): string => showLength(mm, unit).replace(/ (in|mm)$/, '');

/** The value typed so far in mm; half-typed text counts as nothing yet. */
export function readPad(text: string, unit: ShownUnit): number | null {
  const read = parseLength(text, unit);
  return read.ok ? read.value.mm : null;
}

function EighthRule({ mm, empty, onEighth }: { mm: number; empty: boolean; onEighth: (eighth: number) => void }) {
  const sixteenths = Math.round(mm / SIXTEENTH_MM) % 16;
  return (
    <div className="relative">
      <div className="grid grid-cols-8 border border-edge bg-rule text-rule-ink">
        {Array.from({ length: 8 }, (_, k) => k).map((k) => (
          <button
            type="button"
            key={k}
            onClick={() => onEighth(k)}
            className="relative h-16 cursor-pointer touch-manipulation"
            aria-label={k === 0 ? '0' : bare((k * 25.4) / 8, 'in')}
          >
            <span
              aria-hidden="true"
              className={`absolute top-0 left-1/2 w-0.5 bg-rule-ink ${k === 0 ? 'h-9' : k === 4 ? 'h-7' : k % 2 === 0 ? 'h-5' : 'h-3.5'}`}
            />
            <span
              aria-hidden="true"
              className={`absolute right-0 bottom-1 left-0 text-center ${k % 2 === 0 ? 'font-bold text-base' : 'text-xs'}`}
            >
              {k === 0 ? '0' : bare((k * 25.4) / 8, 'in')}
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
      <div className="flex gap-1.5">
        <button
          type="button"
          className="key flex-none px-0"
          onClick={() => set(Math.max(0, sixteenths - 1) * SIXTEENTH_MM)}
          aria-label={t('pad.less')}
        >
          −1/16
        </button>
        <div className="flex-1">
          <EighthRule mm={mm} empty={empty} onEighth={(eighth) => set((whole * 16 + eighth * 2) * SIXTEENTH_MM)} />
        </div>
        <button
          type="button"
          className="key flex-none px-0"
          onClick={() => set((sixteenths + 1) * SIXTEENTH_MM)}
          aria-label={t('pad.more')}
        >
          +1/16
        </button>
      </div>
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
      <div className="grid grid-cols-[3rem_1fr_1fr_1fr_1fr_1fr_3rem] gap-1">
        <button
          type="button"
          className="key px-0"
          onClick={() => set(Math.max(0, whole - 1))}
          aria-label={t('pad.lessMm')}
        >
          −1
        </button>
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
        <button type="button" className="key px-0" onClick={() => set(whole + 1)} aria-label={t('pad.moreMm')}>
          +1
        </button>
      </div>
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

/** A length under a gloved thumb: a piece of rule for eighths, plus and minus a sixteenth, whole inches, last values. */
export function FractionPad({ unit, aboutMm, text, onText, last }: Props) {
  const { t } = useTranslation();
  const mm = readPad(text, unit) ?? 0;
  const empty = text.trim() === '';
  const tall = aboutMm > TALL_MM;
  const set = (value: number) => onText(bare(value, unit));
  return (
    <div className="flex flex-col gap-1.5">
      {unit === 'in' ? (
        <InchKeys mm={mm} empty={empty} keys={tall ? TALL_INCHES : LOW_INCHES} set={set} />
      ) : (
        <MetricKeys mm={mm} empty={empty} tensKeys={tall ? TALL_TENS : LOW_TENS} set={set} />
      )}
      {last.length > 0 && (
        <div className="flex items-center gap-1.5">
          <span className="text-soft text-sm">{t('pad.last')}</span>
          {last.slice(0, 4).map((value) => (
            <button type="button" key={value} className="key flex-1 px-1" onClick={() => set(value)}>
              {bare(value, unit)}
            </button>
          ))}
        </div>
      )}
    </div>
  );
}
