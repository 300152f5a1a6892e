import type { Symptom } from '@careful-seam/core/log/callBodies';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { z } from 'zod';
import { DraftLine } from '../../shared/DraftLine';
import { useHeld } from '../../shared/useDraft';
import { type LocalShower, useStore } from '../../tablet/store';
import { TextArea } from '../../ui/fields';
import { NEW_SYMPTOM, SymptomFields, ToldSymptom } from './SymptomFields';

/** Places that one call tells of at most. */
const PLACES_AT_MOST = 12;
const Held = z.object({ words: z.string(), symptoms: z.array(ToldSymptom) });

/** A place of which all was said; nothing where something is missing. */
function whole({ on: _on, place, when, amount, ...more }: ToldSymptom): Symptom[] {
  return place && when && amount ? [{ ...more, place, when, amount }] : [];
}

/** A call is taken: what was told, and where, when and how much water was seen. */
export function CallForm({ shower }: { shower: LocalShower }) {
  const { t } = useTranslation();
  const write = useStore((s) => s.write);
  const model = shower.state.geometry!.model;
  const { told, tell, draft, begin } = useHeld({ kind: 'call', showerId: shower.id }, Held, {
    words: '',
    symptoms: [NEW_SYMPTOM],
  });
  const [shown, setShown] = useState(0);
  const [problem, setProblem] = useState<string | null>(null);
  const at = Math.min(shown, told.symptoms.length - 1);
  const keep = () => {
    if (told.words.trim() === '') return setProblem(t('call.noWords'));
    const symptoms = told.symptoms.flatMap(whole);
    const [missing] = told.symptoms.flatMap((s, k) => (whole(s).length === 0 ? [k] : []));
    if (missing !== undefined) {
      setShown(missing);
      return setProblem(t('call.notWhole', { number: missing + 1 }));
    }
    // What is typed is let go once it is kept, and not before.
    void write(shower.id, 'call-opened', { words: told.words.trim(), symptoms }).then(() => draft.drop());
  };
  return (
    <main className="flex min-h-0 flex-col gap-3 overflow-y-auto p-4">
      <DraftLine draft={draft} onAnew={begin} />
      <TextArea
        label={t('call.words')}
        value={told.words}
        maxLength={2000}
        onChange={(e) => {
          tell({ words: e.target.value });
          setProblem(null);
        }}
      />
      <fieldset className="flex flex-wrap items-center gap-1.5" aria-label={t('call.places')}>
        {told.symptoms.map((_, k) => (
          <button key={k} type="button" className="key px-3" aria-pressed={k === at} onClick={() => setShown(k)}>
            {t('call.placeNumber', { number: k + 1 })}
          </button>
        ))}
        {told.symptoms.length < PLACES_AT_MOST && (
          <button
            type="button"
            className="key px-3"
            onClick={() => {
              tell({ symptoms: [...told.symptoms, NEW_SYMPTOM] });
              setShown(told.symptoms.length);
            }}
          >
            {t('call.morePlaces')}
          </button>
        )}
        {told.symptoms.length > 1 && (
          <button
            type="button"
            className="key px-3"
            onClick={() => tell({ symptoms: told.symptoms.filter((_, k) => k !== at) })}
          >
            {t('call.withoutPlace')}
          </button>
        )}
      </fieldset>
      <SymptomFields
        key={at}
        model={model}
        symptom={told.symptoms[at]!}
        onSymptom={(symptom) => tell({ symptoms: told.symptoms.map((s, k) => (k === at ? symptom : s)) })}
      />
      {problem && (
        <p role="alert" className="text-hold">
          {problem}
        </p>
      )}
      <button type="button" className="key key-main text-lg" onClick={keep}>
        {t('call.take')}
      </button>
    </main>
  );
}
