import type { FloodTest } from '@careful-seam/core/log/floodTest';
import { FLOOD_EVENTS, type FloodEventKind } from '@careful-seam/core/water/floodEvents';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useStore } from '../../tablet/store';
import { Choice } from '../../ui/Choice';
import { Sheet } from '../../ui/Sheet';
import { TimeField, timeProblem } from '../../ui/TimeField';

interface Props {
  showerId: string;
  test: FloodTest;
  zone: string;
  /** A time that the series itself asks about, ms since 1970. */
  askedMs: number | null;
  onClose: () => void;
}

/** Something happened to the water or the gauge: what, to which water, and when. */
export function EventSheet({ showerId, test, zone, askedMs, onClose }: Props) {
  const { t } = useTranslation();
  const write = useStore((s) => s.write);
  const [kind, setKind] = useState<FloodEventKind>('refill');
  const [of, setOf] = useState<'water' | 'pan'>('water');
  const [at, setAt] = useState<number | null>(askedMs);
  const [words, setWords] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const keep = () => {
    const atMs = at ?? Date.now();
    const wrong = timeProblem(t, test, atMs);
    if (wrong) return setProblem(wrong);
    const body = {
      event: kind,
      of,
      at: new Date(atMs).toISOString(),
      ...(words.trim() ? { words: words.trim() } : {}),
    };
    void write(showerId, 'flood-event', body).then(onClose);
  };
  return (
    <Sheet title={t('flood.eventTitle')} onClose={onClose}>
      <fieldset className="flex flex-col gap-1">
        <legend className="text-soft text-sm">{t('flood.eventWhat')}</legend>
        {FLOOD_EVENTS.map((key) => (
          <button
            type="button"
            key={key}
            className="key text-left"
            aria-pressed={kind === key}
            onClick={() => setKind(key)}
          >
            {t(`flood.event.${key}`)}
          </button>
        ))}
      </fieldset>
      {test.panResolutionMm !== null && (
        <Choice
          label={t('flood.read.of')}
          value={of}
          options={(['water', 'pan'] as const).map((key) => ({ key, label: t(`flood.of.${key}`) }))}
          onChoose={setOf}
        />
      )}
      <TimeField label={t('flood.eventAt')} zone={zone} atMs={at} onAt={setAt} />
      <label>
        <span className="text-soft text-sm">{t('flood.words')}</span>
        <input className="field" value={words} onChange={(e) => setWords(e.target.value)} />
      </label>
      <p className="text-soft text-sm">{t(`flood.eventMeans.${kind}`)}</p>
      {problem && (
        <p role="alert" className="text-hold">
          {problem}
        </p>
      )}
      <button type="button" className="key key-main text-lg" onClick={keep}>
        {t('flood.eventKeep')}
      </button>
    </Sheet>
  );
}
