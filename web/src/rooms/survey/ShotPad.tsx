import type { PlanPoint } from '@careful-seam/core/shower/geometry/point';
import { parseLength, showLength } from '@careful-seam/core/units/length';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Choice } from '../../ui/Choice';
import { InstrumentPanel } from '../../ui/instrument/InstrumentPanel';
import { LengthField } from '../../ui/LengthField';
import { usePreferences } from '../../ui/preferences';
import { problemWords } from '../../ui/words';
import type { Laser } from './useLaser';

/** What is typed: the reading of the rod, or a height over the rim. */
export type ShotMode = 'rod' | 'height';
/** Where the next reading belongs: the place that all counts from, or a place on the floor. */
export type Target = { kind: 'datum' } | { kind: 'place'; place: PlanPoint } | null;

/** The place that is shot next, by hand or by the laser. */
interface Props {
  /** What is typed. */
  mode: ShotMode;
  /** Told of the other way. */
  onMode: (mode: ShotMode) => void;
  /** The place that is shot. */
  target: Target;
  /** Told of another place, mm. */
  onPlace: (place: PlanPoint) => void;
  /** How large the floor is, mm. */
  floorMm: { width: number; depth: number };
  /** The receiver, if there is one. */
  laser: Laser;
  /** The last reading that came from the laser and was not kept. */
  heardMm: number | null;
  /** What the laser says is kept by itself. */
  auto: boolean;
  /** Told when that changes. */
  onAuto: (auto: boolean) => void;
  /** How many places are still proposed. */
  left: number;
  /** What is wrong, as a sentence; null where nothing is. */
  problem: string | null;
  /** What all heights count from, in words. */
  datumName: string;
  /** Told of a reading, mm, with what was typed. */
  onKeep: (valueMm: number, typed: string) => void;
  /** Something else is typed: what was wrong before is past. */
  onType: () => void;
}

/** Where the helper for the laser listens on this machine. */
const ADDRESS = 'http://127.0.0.1:4420';

/** Where the rod stands, from two walls. */
function RodPlace({ place, floorMm, onPlace }: Pick<Props, 'floorMm' | 'onPlace'> & { place: PlanPoint }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  return (
    <div className="grid grid-cols-2 gap-2">
      <LengthField
        label={t('survey.across')}
        unit={unit}
        mm={place.xMm}
        most={floorMm.width}
        onMm={(xMm) => onPlace({ ...place, xMm })}
      />
      <LengthField
        label={t('survey.deep')}
        unit={unit}
        mm={place.yMm}
        most={floorMm.depth}
        onMm={(yMm) => onPlace({ ...place, yMm })}
      />
    </div>
  );
}

/** One shot after another: where the rod goes, what it reads, and the laser that can say so itself. */
export function ShotPad(props: Props) {
  const {
    mode,
    onMode,
    target,
    onPlace,
    floorMm,
    laser,
    heardMm,
    auto,
    onAuto,
    left,
    problem,
    datumName,
    onKeep,
    onType,
  } = props;
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const [text, setText] = useState('');
  const [wrong, setWrong] = useState<string | null>(null);
  const keep = () => {
    const negative = /^[-−]/.test(text.trim());
    const read = parseLength(text.trim().replace(/^[-−]/, ''), unit, t('survey.reading'));
    if (!read.ok) return setWrong(problemWords(read.problem));
    if (negative && mode === 'rod') return setWrong(t('survey.rodNegative'));
    setWrong(null);
    setText('');
    onKeep(negative ? -read.value.mm : read.value.mm, text.trim());
  };
  const heard = heardMm === null ? null : showLength(heardMm, unit, 32);
  return (
    <section className="flex flex-col gap-2" aria-label={t('survey.shoot')}>
      <Choice
        label={t('survey.mode')}
        value={mode}
        options={(['rod', 'height'] as const).map((key) => ({ key, label: t(`survey.modes.${key}`) }))}
        onChoose={onMode}
      />
      <p className="font-semibold" data-testid="target">
        {target === null
          ? t('survey.allDone')
          : target.kind === 'datum'
            ? t('survey.datum', { where: datumName })
            : t('survey.rodAt', { count: left })}
      </p>
      {target?.kind === 'place' && <RodPlace place={target.place} floorMm={floorMm} onPlace={onPlace} />}
      {target !== null && (
        <div className="flex gap-1.5">
          <input
            className="field font-bold text-lg"
            aria-label={t(mode === 'rod' ? 'survey.reading' : 'survey.height')}
            placeholder={heard ?? ''}
            value={text}
            onChange={(e) => {
              setText(e.target.value);
              onType();
            }}
            onKeyDown={(e) => e.key === 'Enter' && keep()}
          />
          {heardMm !== null && text === '' ? (
            <button type="button" className="key key-main flex-none" onClick={() => onKeep(heardMm, `${heardMm} mm`)}>
              {t('survey.keepHeard', { value: heard })}
            </button>
          ) : (
            <button type="button" className="key key-main flex-none" onClick={keep}>
              {t('look.keep')}
            </button>
          )}
        </div>
      )}
      {(problem ?? wrong) && (
        <p role="alert" className="text-hold text-sm">
          {problem ?? wrong}
        </p>
      )}
      <InstrumentPanel texts="survey.laser" address={ADDRESS} instrument={laser}>
        <label className="flex min-h-12 items-center gap-2">
          <input type="checkbox" className="size-6" checked={auto} onChange={(e) => onAuto(e.target.checked)} />
          {t('survey.laser.auto')}
        </label>
      </InstrumentPanel>
    </section>
  );
}
