import { belowHeight, type FilmZone, zoneOfFace } from '@careful-seam/core/membrane/film/filmZones';
import type { FilmLimits, ZoneFilm } from '@careful-seam/core/membrane/film/judgeFilm';
import type { Point2, Point3 } from '@careful-seam/core/shower/geometry/point';
import { edgeId } from '@careful-seam/core/shower/geometry/showerGeometry';
import type { ShowerModel } from '@careful-seam/core/shower/geometry/showerModel';
import { arrange, type PlacedPanel, toSheet } from '@careful-seam/core/shower/map/arrange';
import { unfold } from '@careful-seam/core/shower/map/unfold';
import { filmWords } from '@careful-seam/words/sentences/filmWords';
import { edgeLetters } from '@careful-seam/words/texts/names';
import { useMemo } from 'react';
import { useTranslation } from 'react-i18next';
import { curbTitle } from '../../drawing/curbTitle';
import { usePreferences } from '../../ui/preferences';

/** A shower by its zones. */
interface Props {
  /** The drawn shower: faces, seams, corners, openings and the drain, mm. */
  model: ShowerModel;
  /** How each zone stands. */
  zones: readonly ZoneFilm[];
  /** The limits of the label, or of the book where the label says nothing. */
  limits: FilmLimits;
  /** How high the lower walls reach over their foot, mm. */
  lowerMm: number;
  /** The zone that is looked at; null for none. */
  chosen: FilmZone | null;
  /** Told of a tapped zone. */
  onChoose: (zone: FilmZone) => void;
}

/** The sheet that the map is laid out on, px. */
const SHEET = { width: 800, height: 600, gap: 22, title: 22 };

/** A stretch of one panel that belongs to one zone. */
interface Patch {
  /** The zone that it belongs to. */
  zone: FilmZone;
  /** Its outline on the sheet, px. */
  outline: Point2[];
  /** What lies within it and is another zone, px. */
  holes: Point2[][];
}

/** A flat outline stood up, so that one wall is clipped like another. */
const upright = (loop: readonly Point2[]): Point3[] => loop.map(([x, y]) => [x, 0, y]);
/** An upright outline laid flat again. */
const flat = (loop: readonly Point3[]): Point2[] => loop.map(([x, , y]) => [x, y]);
/** The part of a loop under or over a height, y up. */
function cutAt(loop: readonly Point2[], heightMm: number, under: boolean): Point2[] {
  if (under) return flat(belowHeight(upright(loop), heightMm));
  const turned = loop.map(([x, y]): Point2 => [x, -y]);
  return flat(belowHeight(upright(turned), -heightMm)).map(([x, y]): Point2 => [x, -y]);
}

/** The patches of one panel, zone by zone. */
function patchesOf(model: ShowerModel, placed: PlacedPanel, lowerMm: number, known: ReadonlySet<FilmZone>): Patch[] {
  const kinds = new Map(model.faces.map((f) => [f.id, f.kind]));
  return placed.panel.faces.flatMap(({ face, outline, holes }) => {
    const kind = kinds.get(face);
    const zone = kind ? zoneOfFace(kind) : null;
    if (zone === null) return [];
    if (zone !== 'walls' || placed.panel.kind !== 'wall') return known.has(zone) ? [{ zone, outline, holes }] : [];
    const at = Math.min(...outline.map((p) => p[1])) + lowerMm;
    return (['lower-walls', 'walls'] as const)
      .filter((z) => known.has(z))
      .map((z) => {
        const under = z === 'lower-walls';
        const cut = (loop: readonly Point2[]) => cutAt(loop, at, under);
        return { zone: z, outline: cut(outline), holes: holes.map(cut).filter((h) => h.length > 2) };
      })
      .filter((p) => p.outline.length > 2);
  });
}

/** Strokes that say how a zone stands, without its colour: closer together the fuller the film. */
const HATCH: Record<ZoneFilm['verdict'], { step: number; className: string; slant: boolean }> = {
  unseen: { step: 0, className: '', slant: false },
  fail: { step: 9, className: 'stroke-hold [stroke-width:1.6]', slant: true },
  undecided: { step: 12, className: 'stroke-cure [stroke-width:1.4]', slant: true },
  pass: { step: 6, className: 'stroke-soft [stroke-width:1]', slant: false },
};

/** A hatch for each verdict, so that none is told by its colour alone. */
function Hatches() {
  return (
    <defs>
      {Object.entries(HATCH).map(([verdict, { step, className, slant }]) =>
        step === 0 ? null : (
          <pattern
            key={verdict}
            id={`film-${verdict}`}
            width={step}
            height={step}
            patternUnits="userSpaceOnUse"
            patternTransform={slant ? 'rotate(45)' : ''}
          >
            <path d={`M0 ${step / 2}H${step}`} className={className} />
          </pattern>
        ),
      )}
    </defs>
  );
}

/** One patch of a zone. */
interface PatchProps {
  /** The zone that it belongs to, as it stands. */
  zone: Props['zones'][number];
  /** Outline with its holes, as a path on the sheet. */
  d: string;
  /** Middle of it on the sheet. */
  at: Point2;
  /** It is looked at. */
  isChosen: boolean;
  /** The mean film is written here. */
  isNamed: boolean;
  /** The least dry film that the label asks, µm; null while it is not known. */
  leastUm: number | null;
}

/** A part of a zone on one face. */
function ZonePatch({ zone, d, at: [x, y], isChosen, isNamed, leastUm }: PatchProps) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  return (
    <g data-zone={zone.zone} className="cursor-pointer">
      <path
        d={d}
        fillRule="evenodd"
        className={`fill-leaf stroke-edge [stroke-width:1] ${zone.verdict === 'unseen' ? '[stroke-dasharray:1_5] [stroke-linecap:round]' : ''}`}
      />
      {HATCH[zone.verdict].step > 0 && (
        <path d={d} fillRule="evenodd" fill={`url(#film-${zone.verdict})`} className="pointer-events-none" />
      )}
      {isChosen && (
        <path d={d} fillRule="evenodd" className="pointer-events-none fill-none stroke-ink [stroke-width:3]" />
      )}
      {isNamed && zone.meanDryUm !== null && (
        <text
          x={x}
          y={y - 3}
          textAnchor="middle"
          className={`pointer-events-none stroke-leaf font-bold text-[17px] [paint-order:stroke] [stroke-width:5] ${zone.verdict === 'fail' ? 'fill-hold' : 'fill-ink'}`}
        >
          {filmWords(zone.meanDryUm, unit)}
          {leastUm !== null && (
            <tspan x={x} dy={18} className="font-normal text-[14px]">
              {t('film.needs', { least: filmWords(leastUm, unit) })}
            </tspan>
          )}
        </text>
      )}
    </g>
  );
}

/** The shower laid open with its coated zones: how thick each is, and which is thin. Tapping one chooses it. */
export function FilmMap({ model, zones, limits, lowerMm, chosen, onChoose }: Props) {
  const { t } = useTranslation();
  const known = useMemo(() => new Set(zones.map((z) => z.zone)), [zones]);
  const { panels } = useMemo(() => arrange(unfold(model), SHEET), [model]);
  const letters = edgeLetters(model);
  const path = (placed: PlacedPanel, loops: readonly (readonly Point2[])[]) =>
    loops
      .map(
        (loop) =>
          `M${loop
            .map((p) =>
              toSheet(placed, p)
                .map((v) => v.toFixed(1))
                .join(' '),
            )
            .join('L')}Z`,
      )
      .join('');
  const labelled = new Set<FilmZone>();
  return (
    <svg
      viewBox={`0 0 ${SHEET.width} ${SHEET.height}`}
      className="h-full w-full touch-manipulation select-none overflow-visible"
      role="img"
      aria-label={t('film.map')}
      data-testid="film-map"
      onPointerUp={(e) => {
        const zone = (e.target as Element).closest('[data-zone]')?.getAttribute('data-zone');
        if (zone) onChoose(zone as FilmZone);
      }}
    >
      <Hatches />
      {panels.map((placed) => {
        const edge = placed.panel.edge;
        const letter = edge === null ? undefined : letters.get(edgeId(model.geometry, edge));
        return (
          <g key={placed.panel.id}>
            {patchesOf(model, placed, lowerMm, known).map((patch, k) => {
              const zone = zones.find((z) => z.zone === patch.zone)!;
              const first = !labelled.has(patch.zone);
              if (first) labelled.add(patch.zone);
              return (
                <ZonePatch
                  key={`${patch.zone} ${k}`}
                  zone={zone}
                  d={path(placed, [patch.outline, ...patch.holes])}
                  at={toSheet(placed, middleOf(patch.outline))}
                  isChosen={chosen === patch.zone}
                  isNamed={first}
                  leastUm={limits.dryLeastUm}
                />
              );
            })}
            {letter && (
              <text
                x={placed.x + placed.width / 2}
                y={placed.y - 6}
                textAnchor="middle"
                className="fill-soft text-[14px]"
              >
                {placed.panel.kind === 'curb' ? curbTitle(t, placed.width, letter) : letter}
              </text>
            )}
          </g>
        );
      })}
    </svg>
  );
}

/** Where the figure of a patch stands. */
function middleOf(outline: readonly Point2[]): Point2 {
  const xs = outline.map((p) => p[0]);
  const ys = outline.map((p) => p[1]);
  return [(Math.min(...xs) + Math.max(...xs)) / 2, (Math.min(...ys) + Math.max(...ys)) / 2];
}
