import type { ShowerState } from '@careful-seam/core/log/state';
import {
  BAND_ENDS,
  type BandEnds,
  type CornerPieces,
  cornerLayers,
  USUAL_PIECES,
} from '@careful-seam/core/membrane/cornerLayers';
import { layerStack, stackCells } from '@careful-seam/core/membrane/layerStack';
import { parseLength, showLength } from '@careful-seam/core/units/length';
import { filmWords } from '@careful-seam/words/sentences/filmWords';
import { useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { readFilm } from '../../shared/volumes';
import { usePreferences } from '../../ui/preferences';
import { Sheet } from '../../ui/Sheet';
import { SumFields } from '../../ui/SumFields';

/** The corner whose layers are counted. */
interface Props {
  /** The shower as it stands now. */
  state: ShowerState;
  /** Id of the seam, corner, opening, drain or face. */
  element: string;
  /** Told when it is done with, kept or not. */
  onClose: () => void;
}

/** Side of the drawing, px. */
const SIZE = 230;
/** How far a corner piece and a band reach, in lengths. */
const LENGTHS = ['cornerLegMm', 'bandLegMm'] as const;
/** Thicknesses, µm. */
const FILMS = ['sheetUm', 'bandUm', 'cornerUm', 'mortarUm'] as const;

/** The angle between the walls at a corner of the floor, degrees, as the footprint has it. */
function cornerAngle(state: ShowerState, element: string): number {
  const model = state.geometry!.model;
  const corner = model.corners.find((c) => c.id === element);
  const { footprint } = model.geometry;
  const i = footprint.findIndex((p) => corner && Math.hypot(p.xMm - corner.point[0], p.yMm - corner.point[1]) < 1);
  if (i < 0) return 90;
  const n = footprint.length;
  const [a, b, c] = [footprint[(i + n - 1) % n]!, footprint[i]!, footprint[(i + 1) % n]!];
  const angle = Math.atan2(a.yMm - b.yMm, a.xMm - b.xMm) - Math.atan2(c.yMm - b.yMm, c.xMm - b.xMm);
  return ((((angle * 180) / Math.PI) % 360) + 360) % 360;
}

/** The darker, the more layers lie over each other. */
const SHADES = ['fill-leaf', 'fill-rule', 'fill-cure/35', 'fill-cure/60', 'fill-hold/60'];

/** One way of laying bands at a corner as lines of one height: darker where more lies on each other. */
function Stack({ pieces, ends, angle, words }: { pieces: CornerPieces; ends: BandEnds; angle: number; words: string }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const layers = useMemo(() => cornerLayers(pieces, ends), [pieces, ends]);
  const cells = useMemo(() => stackCells(layers), [layers]);
  const found = layerStack({ layers });
  if (!found.ok) return null;
  const { mostLayers, highestUm, at } = found.value;
  const k = SIZE / pieces.viewMm / 1.15;
  const lean = Math.cos((Math.min(150, Math.max(60, angle)) * Math.PI) / 180);
  const rise = Math.sin((Math.min(150, Math.max(60, angle)) * Math.PI) / 180);
  const shift = lean < 0 ? -lean * pieces.viewMm * k : 0;
  const put = (x: number, y: number) => [8 + shift + (x + y * lean) * k, SIZE - 8 - y * rise * k] as const;
  const quad = (x: number, y: number, w: number, h: number) =>
    [put(x, y), put(x + w, y), put(x + w, y + h), put(x, y + h)]
      .map((p) => p.map((v) => v.toFixed(1)).join(' '))
      .join('L');
  const [hx, hy] = put(at.xMm, at.yMm);
  return (
    <figure className="flex flex-1 flex-col gap-1" data-testid={`stack-${ends}`}>
      <figcaption className="leading-tight">
        <span className={`block font-bold text-lg ${mostLayers > 3 ? 'text-hold' : ''}`}>
          {t('layers.count', { count: mostLayers })}
        </span>
        {t(`layers.ends.${ends}`)}
        <span className="block text-soft text-sm">{t('layers.highest', { height: filmWords(highestUm, unit) })}</span>
      </figcaption>
      <svg viewBox={`0 0 ${SIZE + shift + 8} ${SIZE}`} className="w-full" role="img" aria-label={words}>
        {cells.map(({ rect, layers: count }) => (
          <path
            key={`${rect.xMm} ${rect.yMm}`}
            d={`M${quad(rect.xMm, rect.yMm, rect.widthMm, rect.heightMm)}Z`}
            className={SHADES[Math.min(count, SHADES.length - 1)]!}
          />
        ))}
        <path
          d={`M${put(0, pieces.viewMm).join(' ')}L${put(0, 0).join(' ')}L${put(pieces.viewMm, 0).join(' ')}`}
          className="fill-none stroke-ink [stroke-width:4]"
        />
        {[pieces.cornerLegMm, pieces.bandLegMm].map((leg) => (
          <path
            key={leg}
            d={`M${put(0, leg).join(' ')}L${put(leg, leg).join(' ')}L${put(leg, 0).join(' ')}`}
            className="fill-none stroke-soft [stroke-dasharray:4_3] [stroke-width:1]"
          />
        ))}
        <circle cx={hx} cy={hy} r={5} className="fill-none stroke-ink [stroke-width:2]" />
      </svg>
    </figure>
  );
}

/** A typed length in mm; 0 while it can't be read. */
function lengthOf(typed: Record<string, string>, key: string, unit: 'in' | 'mm'): number {
  const read = parseLength(typed[key] ?? '', unit);
  return read.ok ? read.value.mm : 0;
}

/** What lies on each other at a corner of the floor, laid in both ways, against the mortar under the floor tile. */
export function LayerSheet({ state, element, onClose }: Props) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const [typed, setTyped] = useState<Record<string, string>>({
    ...Object.fromEntries(LENGTHS.map((k) => [k, showLength(USUAL_PIECES[k], unit).replace(/ (in|mm)$/, '')])),
    ...Object.fromEntries(FILMS.map((k) => [k, filmWords(USUAL_PIECES[k], unit).replace(/ (mil|µm)$/, '')])),
    notch: unit === 'in' ? '1/4' : '6',
  });
  const wrong = [...LENGTHS, 'notch'].find((k) => !parseLength(typed[k] ?? '', unit).ok);
  const wrongFilm = FILMS.find((k) => readFilm(typed[k] ?? '', unit) === null);
  const pieces: CornerPieces = useMemo(
    () => ({
      ...USUAL_PIECES,
      cornerLegMm: lengthOf(typed, 'cornerLegMm', unit),
      bandLegMm: lengthOf(typed, 'bandLegMm', unit),
      ...Object.fromEntries(FILMS.map((k) => [k, readFilm(typed[k] ?? '', unit) ?? 0])),
    }),
    [typed, unit],
  );
  const angle = cornerAngle(state, element);
  const bad = wrong ?? wrongFilm ?? null;
  const fine = bad === null && pieces.cornerLegMm > 5 && pieces.bandLegMm > 5 && pieces.bandLegMm < pieces.viewMm;
  const highest = (ends: BandEnds) => {
    const found = layerStack({ layers: cornerLayers(pieces, ends) });
    return found.ok ? found.value.highestUm : 0;
  };
  // A notched bed lies about half as deep as its notch once the tile is pressed in [common practice, no source].
  const bedUm = (lengthOf(typed, 'notch', unit) / 2) * 1000;
  const field = pieces.sheetUm + pieces.mortarUm;
  const hump = fine ? highest('run-through') - field : 0;
  return (
    <Sheet title={t('layers.title')} onClose={onClose}>
      <p className="text-soft text-sm">{t('layers.what')}</p>
      {fine && (
        <div className="flex gap-3">
          {BAND_ENDS.map((ends) => (
            <Stack key={ends} pieces={pieces} ends={ends} angle={angle} words={t(`layers.ends.${ends}`)} />
          ))}
        </div>
      )}
      {fine && bedUm > 0 && (
        <p
          className={`border-l-4 pl-2 ${hump > bedUm / 2 ? 'border-hold text-hold' : 'border-ink'}`}
          data-testid="hump"
        >
          {t(hump > bedUm / 2 ? 'layers.tooHigh' : 'layers.fits', {
            hump: filmWords(hump, unit),
            bed: filmWords(bedUm, unit),
            share: Math.round((100 * hump) / bedUm),
          })}
        </p>
      )}
      {bad && (
        <p role="alert" className="text-hold">
          {t('layers.unreadable', { field: t(`layers.field.${bad}`) })}
        </p>
      )}
      <SumFields
        names={[...LENGTHS, ...FILMS, 'notch']}
        label={(key) => t(`layers.field.${key}`, { film: unit === 'in' ? 'mil' : 'µm' })}
        typed={typed}
        onType={setTyped}
      />
      <p className="text-soft text-sm">{t('layers.source')}</p>
    </Sheet>
  );
}
