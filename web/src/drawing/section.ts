import type { Details } from '@careful-seam/core/rules/ruleBook';
import { type Mark, PAINT } from './corner';

/** The ways in which each closing of an opening goes wrong. */
export const PENETRATION_WRONGS = {
  seal: ['hacked', 'offCentre', 'noLap'],
  sealant: ['hacked', 'gap', 'lump'],
  coated: ['hacked', 'noCollar', 'thin'],
} as const satisfies Record<Details['penetration'], readonly string[]>;

/** The ways in which each drain goes wrong. */
export const DRAIN_WRONGS = {
  'bonding-flange': ['hollow', 'tooWide', 'mortarIn'],
  hub: ['upsideDown', 'oneBead', 'high'],
  'coated-ring': ['noFabric', 'boltsOut', 'blocked'],
  'clamping-ring': ['cutWide', 'blocked', 'flatOnFloor'],
  moulded: ['void', 'stubShort', 'behind'],
  'leak-control': ['proud', 'sealantOnly', 'late'],
} as const satisfies Record<Details['drain'], readonly string[]>;

/** A circle as an SVG path. */
const circle = (x: number, y: number, r: number): string =>
  `M${x - r} ${y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0Z`;
/** A rectangle as an SVG path. */
const rect = (x: number, y: number, w: number, h: number): string => `M${x} ${y}h${w}v${h}h${-w}Z`;

/** A pipe through a wall, seen from the front: `share` is its diameter over the drawing's width as it was drawn in. */
export function penetrationMarks(kind: Details['penetration'], wrong: string | null, share: number): Mark[] {
  const r = Math.max(12, Math.min(34, share * 50));
  const hole: Mark =
    wrong === 'hacked'
      ? { path: rect(100 - r - 14, 100 - r - 18, 2 * r + 32, 2 * r + 30), className: PAINT.wrongFill }
      : { path: circle(100, 100, r + 4), className: 'fill-paper stroke-ink [stroke-width:1.4]' };
  const wall: Mark = { path: rect(6, 6, 188, 188), className: PAINT.plane };
  const pipe: Mark = { path: circle(100, 100, r), className: 'fill-edge stroke-ink [stroke-width:1.4]' };
  const off = wrong === 'offCentre' ? 26 : 0;
  const collar = r + (wrong === 'noLap' ? 9 : 34);
  if (kind === 'sealant') {
    const bead =
      wrong === 'gap' ? `M${100 + r + 8} 100a${r + 8} ${r + 8} 0 1 1 ${-(r + 8)} ${-(r + 8)}` : circle(100, 100, r + 8);
    return [
      wall,
      hole,
      pipe,
      { path: bead, className: PAINT.bead },
      ...(wrong === 'gap'
        ? [{ path: `M100 ${100 - r - 8}a${r + 8} ${r + 8} 0 0 1 ${r + 8} ${r + 8}`, className: PAINT.wrong }]
        : []),
      ...(wrong === 'lump' ? [{ path: circle(100 + r + 10, 100 + 6, 13), className: PAINT.wrongFill }] : []),
    ];
  }
  const coat: Mark = { path: rect(6, 6, 188, 188), className: 'fill-water/20 stroke-edge [stroke-width:1.2]' };
  const seal: Mark = {
    path: kind === 'seal' ? rect(100 - collar + off, 100 - collar, 2 * collar, 2 * collar) : circle(100, 100, collar),
    className:
      wrong === 'offCentre' || wrong === 'noLap' ? PAINT.wrongFill : kind === 'seal' ? PAINT.piece : PAINT.mesh,
  };
  return [
    kind === 'coated' ? coat : wall,
    ...(wrong === 'hacked' ? [hole] : []),
    ...(wrong === 'noCollar' ? [] : [seal]),
    ...(wrong === 'hacked' ? [] : [hole]),
    pipe,
    ...(wrong === 'noCollar' ? [{ path: circle(100, 100, r + 9), className: PAINT.wrong }] : []),
    ...(wrong === 'thin'
      ? [{ path: circle(100, 100, r + 18), className: `${PAINT.wrong} [stroke-dasharray:2_7]` }]
      : []),
  ];
}

/** The waste pipe. */
const PIPE: Mark = {
  path: `${rect(84, 120, 6, 74)}${rect(110, 120, 6, 74)}`,
  className: 'fill-edge stroke-ink [stroke-width:1]',
};
/** The subfloor with the hole for the pipe. */
const FLOOR: Mark = {
  path: `${rect(0, 120, 78, 26)}${rect(122, 120, 78, 26)}`,
  className: 'fill-hair stroke-edge [stroke-width:1]',
};
/** A hole that leaves the edge of the drain without support. */
const WIDE_HOLE: Mark = {
  path: `${rect(0, 120, 52, 26)}${rect(148, 120, 52, 26)}`,
  className: 'fill-hair stroke-hold [stroke-width:2]',
};
/** A bed of mortar at a height, from one side to the other. */
const mortar = (y: number, from = 0, to = 200): Mark[] => [
  { path: rect(from, y, 70 - from, 120 - y), className: 'fill-rule stroke-edge [stroke-width:1]' },
  { path: rect(130, y, to - 130, 120 - y), className: 'fill-rule stroke-edge [stroke-width:1]' },
];
/** The flange of a drain at a height. */
const flange = (y: number, className: string = 'fill-edge stroke-ink [stroke-width:1.2]'): Mark => ({
  path: `${rect(52, y, 32, 6)}${rect(116, y, 32, 6)}`,
  className,
});
/** The membrane at a height, as far as it reaches. */
const skin = (y: number, to: number, className: string = 'fill-none stroke-water [stroke-width:4]'): Mark => ({
  path: `M0 ${y}H${to}M${200 - to} ${y}H200`,
  className,
});

/** A section through the drain as its kind makes it, or one of the usual wrongs. */
export function drainMarks(kind: Details['drain'], wrong: string | null): Mark[] {
  switch (kind) {
    case 'bonding-flange':
      return [
        wrong === 'tooWide' ? WIDE_HOLE : FLOOR,
        ...mortar(98),
        PIPE,
        flange(92),
        skin(88, wrong === 'hollow' ? 76 : 80),
        ...(wrong === 'hollow'
          ? [{ path: `${rect(54, 98, 28, 8)}${rect(118, 98, 28, 8)}`, className: PAINT.wrongFill }]
          : []),
        ...(wrong === 'mortarIn' ? [{ path: rect(84, 88, 32, 12), className: PAINT.wrongFill }] : []),
        ...(wrong === 'tooWide' ? [{ path: 'M52 112H78M122 112H148', className: PAINT.wrong }] : []),
      ];
    case 'hub':
      return [
        FLOOR,
        { path: `${rect(0, 84, 66, 30)}${rect(134, 84, 66, 30)}`, className: 'fill-leaf stroke-edge [stroke-width:1]' },
        PIPE,
        flange(wrong === 'high' ? 98 : 112),
        { path: circle(76, 117, 4) + (wrong === 'oneBead' ? '' : circle(124, 117, 4)), className: 'fill-ink' },
        ...(wrong === 'oneBead' ? [{ path: circle(124, 117, 8), className: PAINT.wrong }] : []),
        {
          path: wrong === 'upsideDown' ? 'M92 140L100 126L108 140' : 'M92 126L100 140L108 126',
          className: wrong === 'upsideDown' ? PAINT.wrong : 'fill-none stroke-ink [stroke-width:3]',
        },
        ...(wrong === 'high' ? [{ path: 'M60 106V118M140 106V118', className: PAINT.wrong }] : []),
        skin(82, 66),
      ];
    case 'coated-ring':
    case 'clamping-ring': {
      const liner = kind === 'clamping-ring';
      const end = wrong === 'cutWide' ? 46 : liner ? 82 : 78;
      const level = wrong === 'flatOnFloor' ? 112 : 96;
      return [
        wrong === 'flatOnFloor' ? WIDE_HOLE : FLOOR,
        ...mortar(level + 4),
        PIPE,
        flange(level),
        skin(level - 4, end, wrong === 'cutWide' ? PAINT.wrong : 'fill-none stroke-water [stroke-width:4]'),
        ...(wrong === 'noFabric' || liner ? [] : [{ path: 'M40 88H82M118 88H160', className: PAINT.mesh }]),
        ...(wrong === 'noFabric' ? [{ path: 'M50 86H82M118 86H150', className: PAINT.wrong }] : []),
        flange(level - 12, 'fill-soft stroke-ink [stroke-width:1.2]'),
        ...(wrong === 'boltsOut'
          ? [{ path: circle(66, level - 14, 7) + circle(134, level - 14, 7), className: PAINT.wrong }]
          : [{ path: `${rect(62, level - 18, 6, 22)}${rect(132, level - 18, 6, 22)}`, className: 'fill-ink' }]),
        {
          path:
            circle(78, level - 18, 4) +
            circle(122, level - 18, 4) +
            circle(72, level - 24, 4) +
            circle(128, level - 24, 4),
          className: wrong === 'blocked' ? 'fill-hold' : 'fill-leaf stroke-ink [stroke-width:1]',
        },
        ...(wrong === 'blocked' ? [{ path: 'M70 84H84M116 84H130', className: PAINT.wrong }] : []),
      ];
    }
    case 'moulded':
      return [
        FLOOR,
        ...(wrong === 'void'
          ? [...mortar(102, 0, 200).slice(0, 1), { path: rect(134, 102, 62, 16), className: PAINT.wrongFill }]
          : mortar(102)),
        PIPE,
        { path: 'M0 96H76V112H84M200 96H124V112H116', className: 'fill-none stroke-ink [stroke-width:5]' },
        {
          path: wrong === 'stubShort' ? 'M86 150V132M114 150V132' : 'M86 150V104M114 150V104',
          className: wrong === 'stubShort' ? PAINT.wrong : 'fill-none stroke-soft [stroke-width:4]',
        },
        { path: 'M6 96V70', className: 'fill-none stroke-ink [stroke-width:5]' },
        {
          path: wrong === 'behind' ? 'M14 10V112' : 'M8 10V64',
          className: wrong === 'behind' ? PAINT.wrong : PAINT.bead,
        },
      ];
    case 'leak-control': {
      const up = wrong === 'proud' ? 100 : 114;
      return [
        FLOOR,
        PIPE,
        flange(up, wrong === 'proud' ? PAINT.wrongFill : 'fill-edge stroke-ink [stroke-width:1.2]'),
        ...(wrong === 'sealantOnly'
          ? [{ path: circle(52, 116, 6) + circle(148, 116, 6), className: PAINT.wrongFill }]
          : [{ path: `${rect(36, up - 6, 34, 4)}${rect(130, up - 6, 34, 4)}`, className: PAINT.piece }]),
        skin(
          up - 10,
          wrong === 'late' ? 40 : 82,
          wrong === 'late' ? PAINT.wrong : 'fill-none stroke-water [stroke-width:4]',
        ),
        ...(wrong === 'proud'
          ? [{ path: 'M10 110H48M152 110H190', className: 'fill-none stroke-water [stroke-width:6]' }]
          : []),
      ];
    }
  }
}
