import { floodShortfalls, wholeVerdict } from '@careful-seam/core/checks/floodNeeds';
import { isWetLook, lowestRead, verdictInput } from '@careful-seam/core/checks/floodReadings';
import type { FloodLook, FloodTest } from '@careful-seam/core/log/floodTest';
import type { FloodCheck } from '@careful-seam/core/rules/checks/flood';
import { FLOOD_CALCULATION } from '@careful-seam/core/water/floodVerdict';
import { floodAdvice, floodSentence, shortfallSentences } from '@careful-seam/words/sentences/floodSentences';
import { useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { type LocalShower, newId, useParts } from '../../tablet/store';
import { LengthField } from '../../ui/LengthField';
import { usePreferences } from '../../ui/preferences';
import { Sheet } from '../../ui/Sheet';
import { useFloodVerdict } from './floodWork';
import { type Looked, lookBodies, MoistureKeys } from './MoistureKeys';

/** The test that is ended. */
interface Props {
  /** The shower as this tablet has worked it out. */
  shower: LocalShower;
  /** The flood test that is under way, or that ended last. */
  test: FloodTest;
  /** What the rule book asks, with its limits. */
  check: FloodCheck;
  /** Time zone of the site, by its IANA name. */
  zone: string;
  /** Told when it is done with, kept or not. */
  onClose: () => void;
}

/** What the test would end with, and why: the first line says it, the others what is short of it and what would help. */
function EndVerdict({ word, lines: [first, ...others] }: { word: string; lines: readonly string[] }) {
  const { t } = useTranslation();
  return (
    <div className={`border-l-4 pl-3 ${word === 'pass' ? 'border-water' : 'border-hold'}`} data-testid="end-verdict">
      <p className="font-bold text-lg">{t(`flood.verdict.${word}`)}</p>
      <p>{first}</p>
      {others.map((line) => (
        <p key={line} className="text-sm text-soft">
          {line}
        </p>
      ))}
    </div>
  );
}

/** Ends the test: the last looks, the lowest water line, and the verdict that follows from all of it. */
export function EndSheet({ shower, test, check, zone, onClose }: Props) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { writeAll, person } = useParts('writeAll', 'person');
  const [looked, setLooked] = useState<Looked>({});
  const [lowestMm, setLowest] = useState(lowestRead(test));
  const [words, setWords] = useState('');
  const asIfEnded = useMemo((): FloodTest => {
    const looks = Object.entries(looked).map(
      ([where, answer]): FloodLook => ({
        entry: where,
        where,
        answer,
        moment: 'end',
        words: '',
        at: '',
        atMs: Date.now(),
        by: person?.name ?? '',
      }),
    );
    return { ...test, looks: [...test.looks, ...looks] };
  }, [test, looked, person]);
  const found = useFloodVerdict(useMemo(() => verdictInput(asIfEnded, check), [asIfEnded, check]));
  const all = check.places.every((p) => looked[p.id] !== undefined);
  const v = found.value;
  const model = shower.state.geometry!.model;
  const short = floodShortfalls(asIfEnded, check, model, v);
  const word = wholeVerdict(v, asIfEnded.looks.some(isWetLook), short);
  const stageLabel = (key: string) => shower.state.rules!.method.stages.find((s) => s.key === key)?.label ?? key;
  const end = async (verdict: 'pass' | 'fail' | 'undecided' | 'aborted') => {
    const looks = lookBodies(looked, 'end', '').map((draft) => ({ ...draft, id: newId() }));
    const figures = v && {
      netLossMmPerDay: v.netLossMmPerDay,
      lowMmPerDay: v.lowMmPerDay,
      highMmPerDay: v.highMmPerDay,
      failBoundMmPerDay: v.failBoundMmPerDay,
      reasons: v.reasons,
    };
    const body = {
      lowestLevelMm: lowestMm,
      verdict,
      inputs: [...test.inputs, ...looks.map((l) => l.id)],
      calculation: FLOOD_CALCULATION,
      ...(figures ? { figures } : {}),
      ...(words.trim() ? { words: words.trim() } : {}),
    };
    await writeAll(shower.id, [...looks, { kind: 'flood-ended', body }]);
    onClose();
  };
  return (
    <Sheet title={t('flood.endTitle')} onClose={onClose}>
      <p>{t('flood.endLooks')}</p>
      <MoistureKeys check={check} looked={looked} onLooked={setLooked} />
      <LengthField
        label={t('flood.lowest')}
        unit={unit}
        mm={lowestMm}
        most={test.filledToMm}
        onMm={setLowest}
        step={unit === 'in' ? 25.4 / 16 : 1}
      />
      <label>
        <span className="text-soft text-sm">{t('flood.words')}</span>
        <input className="field" value={words} onChange={(e) => setWords(e.target.value)} />
      </label>
      {found.problem && (
        <p role="alert" className="text-hold">
          {found.problem}
        </p>
      )}
      {v && all && (
        <EndVerdict
          word={word}
          lines={[
            floodSentence(t, { model, test: asIfEnded, check, verdict: v, unit, zone }),
            ...shortfallSentences(t, short, check, stageLabel, unit),
            ...floodAdvice(t, v),
          ]}
        />
      )}
      <button
        type="button"
        className="key key-main text-lg"
        disabled={!all || !v || found.busy}
        onClick={() => v && void end(word)}
      >
        {!all
          ? t('flood.endLeft')
          : v
            ? t('flood.endAs', { verdict: t(`flood.verdict.${word}`) })
            : t('flood.computing')}
      </button>
      <button type="button" className="key" disabled={words.trim() === ''} onClick={() => void end('aborted')}>
        {words.trim() === '' ? t('flood.abortWhy') : t('flood.abort')}
      </button>
    </Sheet>
  );
}
