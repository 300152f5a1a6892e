import type { BlindLookRow } from '@careful-seam/contract/api/blind';
import { elementName } from '@careful-seam/words/texts/names';
import { useEffect, useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { type MarkState, ShowerMap } from '../../drawing/ShowerMap';
import { toldLines } from '../../drawing/toldLines';
import { useParts } from '../../tablet/store';

/** A place that both answered. */
type Place = NonNullable<BlindLookRow['places']>[number];

/** A seam is thin where both found it sound, saw-toothed where both did not, half and half where they differ. */
const DRAWN = { ok: 'seen', defect: 'defect' } as const;

/** Where two differed, on the map of the shower, with the names of the places. */
export function DifferMap({ look }: { look: BlindLookRow }) {
  const { t } = useTranslation();
  const { showers, fetchShower, connection } = useParts('showers', 'fetchShower', 'connection');
  const [chosen, setChosen] = useState<string | null>(null);
  const model = showers.get(look.showerId)?.state.geometry?.model;
  const missing = !model && connection !== 'starting';
  useEffect(() => {
    if (missing) void fetchShower(look.showerId);
  }, [missing, fetchShower, look.showerId]);
  const places = useMemo(() => new Map((look.places ?? []).map((p) => [p.element, p])), [look.places]);
  const drawn = useMemo(() => {
    if (!model) return null;
    const marks = new Map<string, MarkState>();
    for (const { element, first, second } of places.values())
      marks.set(element, first === 'ok' && second === 'ok' ? 'pass' : 'fail');
    const lines = toldLines(model, (seam) => {
      const place = places.get(seam);
      if (!place) return [];
      return place.first === place.second ? [DRAWN[place.first]] : [DRAWN[place.first], DRAWN[place.second]];
    });
    return { lines, marks };
  }, [model, places]);
  if (!model || !drawn) return <p className="text-soft">{t('missing.loading')}</p>;
  const differ = [...places.values()].filter((p) => p.first !== p.second);
  const shown = chosen !== null && places.get(chosen);
  const said = (p: Place) =>
    t('across.eyes.said', {
      place: elementName(t, model, p.element),
      first: look.first,
      firstSaid: t(`blind.answer.${p.first}`),
      second: look.second,
      secondSaid: t(`blind.answer.${p.second}`),
    });
  return (
    <div className="flex h-full min-h-0 flex-col gap-2">
      <div className="min-h-0 flex-1 max-lg:h-80 max-lg:flex-none">
        <ShowerMap model={model} lines={drawn.lines} marks={drawn.marks} chosen={chosen} onChoose={setChosen} />
      </div>
      <p className="text-soft text-sm">{t('across.eyes.legend')}</p>
      {shown && <p aria-live="polite">{said(shown)}</p>}
      <ul className="max-h-40 shrink-0 overflow-y-auto">
        {differ.map((p) => (
          <li key={p.element} className="border-hair border-t">
            <Link
              className="flex min-h-12 items-center text-ink"
              to={`/showers/${look.showerId}?${new URLSearchParams({ stage: look.stage, element: p.element })}`}
            >
              {said(p)}
            </Link>
          </li>
        ))}
        {differ.length === 0 && <li>{t('across.eyes.sameAll')}</li>}
      </ul>
    </div>
  );
}
