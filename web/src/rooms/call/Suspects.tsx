import type { ShowerModel } from '@careful-seam/core/shower/geometry/showerModel';
import type { TraceView } from '@careful-seam/core/trace/traceCase';
import { percentWords, suspectName } from '@careful-seam/words/sentences/callSentences';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';

/** So many of the likeliest are shown at first. */
const SHOWN = 6;

/** What is suspected, likeliest first, each with what the record says of it; a tap shows it on the map. */
export function Suspects({
  model,
  view,
  chosen,
  onChoose,
}: {
  model: ShowerModel;
  view: TraceView;
  chosen: string | null;
  onChoose: (id: string) => void;
}) {
  const { t } = useTranslation();
  const [all, setAll] = useState(false);
  const shown = all ? view.ranked : view.ranked.slice(0, SHOWN);
  return (
    <section aria-label={t('call.suspects')}>
      <h2 className="font-semibold text-soft">{t('call.suspects')}</h2>
      <ol data-testid="suspects">
        {shown.map(({ suspect, probability }) => (
          <li key={suspect.id}>
            <button
              type="button"
              className={`relative grid min-h-12 w-full grid-cols-[3.5rem_1fr] items-center gap-2 border-hair border-b px-1 pb-2 text-left ${chosen === suspect.id ? 'outline-3 outline-water' : ''}`}
              aria-pressed={chosen === suspect.id}
              onClick={() => onChoose(suspect.id)}
            >
              <span
                aria-hidden="true"
                className="absolute bottom-0 left-0 h-1.5 bg-ink"
                style={{ width: `${Math.max(1, probability * 100)}%` }}
              />
              <span className="relative font-bold">{percentWords(t, probability)}</span>
              <span className="relative leading-tight">
                {suspectName(t, model, suspect)}
                <span className="block text-soft text-sm">
                  {t(`call.says.${suspect.says}`)}
                  {suspect.redone && `, ${t('call.says.redone')}`}
                  {suspect.accepted && `, ${t('call.says.accepted')}`}
                </span>
              </span>
            </button>
          </li>
        ))}
      </ol>
      {view.ranked.length > SHOWN && (
        <button type="button" className="key mt-1 w-full" aria-expanded={all} onClick={() => setAll(!all)}>
          {t(all ? 'call.fewer' : 'call.all', { count: view.ranked.length })}
        </button>
      )}
    </section>
  );
}
