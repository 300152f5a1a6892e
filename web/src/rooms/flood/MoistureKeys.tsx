import { MOISTURE_ANSWERS, type MoistureAnswer } from '@careful-seam/core/log/bodies';
import type { FloodCheck } from '@careful-seam/core/rules/checks/flood';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useStore } from '../../tablet/store';
import { Sheet } from '../../ui/Sheet';

/** What was found at each place, by its id. */
export type Looked = Record<string, MoistureAnswer>;

/** One row of answers for each place where moisture is looked for. */
export function MoistureKeys({
  check,
  looked,
  onLooked,
}: {
  check: FloodCheck;
  looked: Looked;
  onLooked: (looked: Looked) => void;
}) {
  const { t } = useTranslation();
  return (
    <ul className="flex flex-col gap-2">
      <li>
        <button
          type="button"
          className="key w-full"
          onClick={() => onLooked(Object.fromEntries(check.places.map((p) => [p.id, 'dry'])))}
        >
          {t('flood.allDry')}
        </button>
      </li>
      {check.places.map((p) => (
        <li key={p.id}>
          <fieldset>
            <legend className="leading-tight">{p.label}</legend>
            <div className="grid grid-cols-4 gap-1">
              {MOISTURE_ANSWERS.map((a) => (
                <button
                  type="button"
                  key={a}
                  className={`key px-1 text-sm ${a === 'wet' ? 'key-hold' : ''}`}
                  aria-pressed={looked[p.id] === a}
                  onClick={() => onLooked({ ...looked, [p.id]: a })}
                >
                  {t(`flood.answer.${a}`)}
                </button>
              ))}
            </div>
          </fieldset>
        </li>
      ))}
    </ul>
  );
}

/** Entries for the places that were answered. */
export function lookBodies(looked: Looked, moment: 'start' | 'leaving' | 'end', words: string) {
  return Object.entries(looked).map(([where, answer]) => ({
    kind: 'moisture-look' as const,
    body: { where, found: answer === 'wet', answer, moment, ...(words.trim() ? { words: words.trim() } : {}) },
  }));
}

/** A look for moisture while the water stands. */
export function MoistureSheet({
  showerId,
  check,
  onClose,
}: {
  showerId: string;
  check: FloodCheck;
  onClose: () => void;
}) {
  const { t } = useTranslation();
  const writeAll = useStore((s) => s.writeAll);
  const [looked, setLooked] = useState<Looked>({});
  const [words, setWords] = useState('');
  return (
    <Sheet title={t('flood.lookTitle')} onClose={onClose}>
      <MoistureKeys check={check} looked={looked} onLooked={setLooked} />
      <label>
        <span className="text-soft text-sm">{t('flood.words')}</span>
        <input className="field" value={words} onChange={(e) => setWords(e.target.value)} />
      </label>
      <button
        type="button"
        className="key key-main text-lg"
        disabled={Object.keys(looked).length === 0}
        onClick={() => void writeAll(showerId, lookBodies(looked, 'leaving', words)).then(onClose)}
      >
        {t('flood.lookKeep', { count: Object.keys(looked).length })}
      </button>
    </Sheet>
  );
}
