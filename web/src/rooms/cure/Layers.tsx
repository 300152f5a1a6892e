import type { LayerReady } from '@careful-seam/core/checks/cureOfShower';
import type { ShowerState } from '@careful-seam/core/log/state';
import { hoursWords, layerName } from '@careful-seam/words/sentences/cureWords';
import { momentWords } from '@careful-seam/words/sentences/moments';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import type { ShowerWait } from './waits';

/** An hour, ms. */
const HOUR_MS = 3_600_000;
/** Slowest layers that are shown at once. */
const SHOWN = 4;

/** Why a layer is ready when it is: the label, the cold, the damp or its film, with the hours that it costs. */
export function useWhy() {
  const { t } = useTranslation();
  return (layer: LayerReady, labelHours: number): string => {
    if (layer.readyAtMs === null) return t(`cure.never.${layer.decides}`);
    const late = (layer.readyAtMs - layer.laidAtMs) / HOUR_MS - labelHours;
    if (!layer.read) return t('cure.why.unread');
    return layer.decides === 'label' || late < 1 / 60
      ? t('cure.why.label')
      : t(`cure.why.${layer.decides}`, { late: hoursWords(t, late) });
  };
}

/** Every layer that a wait hangs on, the slowest first. */
export function Layers({ state, waits, zone }: { state: ShowerState; waits: readonly ShowerWait[]; zone: string }) {
  const { t } = useTranslation();
  const why = useWhy();
  const [all, setAll] = useState(false);
  const model = state.geometry!.model;
  const rows = waits.flatMap((w) => w.layers.map((layer) => ({ layer, check: w.requirement.check })));
  rows.sort((a, b) => (b.layer.readyAtMs ?? Infinity) - (a.layer.readyAtMs ?? Infinity));
  return (
    <>
      <table className="w-full text-left text-sm" data-testid="layers">
        <thead>
          <tr className="border-hair border-b text-soft">
            {(['layer', 'laid', 'label', 'ready'] as const).map((key) => (
              <th key={key} className="py-1 pr-2 font-normal">
                {t(`cure.column.${key}`)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.slice(0, all ? rows.length : SHOWN).map(({ layer, check }, i) => (
            <tr
              key={`${check.id} ${layer.told} ${layer.element} ${layer.laidAtMs} ${layer.coat?.zones.join()}`}
              className="border-hair border-b align-top"
            >
              <td className={`py-1 pr-2 ${i === 0 ? 'font-bold' : ''}`}>
                {layerName(t, model, state.rules!.method, layer)}
                <span className="block font-normal text-soft">{why(layer, check.hours)}</span>
              </td>
              <td className="py-1 pr-2 whitespace-nowrap">{momentWords(layer.laidAtMs, zone)}</td>
              <td className="py-1 pr-2 whitespace-nowrap">{hoursWords(t, check.hours)}</td>
              <td className={`py-1 whitespace-nowrap ${i === 0 ? 'font-bold' : ''}`}>
                {layer.readyAtMs === null ? t('cure.noEnd') : momentWords(layer.readyAtMs, zone)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <button type="button" className="key self-start px-2 text-sm" onClick={() => setAll(!all)}>
        {t(all ? 'cure.fewer' : 'cure.allLayers', { count: rows.length })}
      </button>
    </>
  );
}
