import { ProductLine } from '@careful-seam/core/rules/productLine';

/** A thousandth of an inch, µm. */
const MIL_UM = 25.4;
/** Where its figures were read, as a firm would note it. */
const label = { readFrom: 'label on the pail, March 2026', ownPartsOnly: false };

/** Products of the demo firm with what their labels say. Names, makers and figures are invented. */
export const DEMO_PRODUCTS: readonly ProductLine[] = [
  {
    ...label,
    id: 'film-a',
    name: 'Film A',
    maker: 'Maker A',
    kind: 'membrane' as const,
    methods: ['liquid', 'leak-control-flange'],
    figures: {
      wetUm: { least: 20 * MIL_UM, most: 40 * MIL_UM },
      dryUm: { least: 20 * MIL_UM, most: 40 * MIL_UM },
      coats: { least: 2 },
      recoatHours: { least: 3 },
      waterHours: { least: 14 },
      solidsPercent: { least: 55 },
      permeancePerm: { most: 0.4 },
      workingC: { least: 10, most: 35 },
    },
    ownPartsOnly: true,
    goesWith: [{ line: 'wash-b', paper: 'letter of Maker A, May 2026' }],
  },
  {
    ...label,
    id: 'cloth-a',
    name: 'Cloth A',
    maker: 'Maker A',
    kind: 'fabric' as const,
    methods: ['liquid', 'leak-control-flange'],
    readFrom: 'data sheet, January 2026',
  },
  {
    ...label,
    id: 'wash-b',
    name: 'Wash B',
    maker: 'Maker B',
    kind: 'primer' as const,
    methods: ['liquid', 'leak-control-flange'],
    figures: { recoatHours: { least: 1 } },
  },
  {
    ...label,
    id: 'sheet-c',
    name: 'Sheet C',
    maker: 'Maker C',
    kind: 'membrane' as const,
    methods: ['bonded-sheet', 'leak-control-flange'],
    figures: { permeancePerm: { most: 0.18 } },
    mortarKind: 'unmodified' as const,
    ownPartsOnly: true,
    readFrom: 'data sheet, February 2026',
  },
  {
    ...label,
    id: 'band-c',
    name: 'Band C',
    maker: 'Maker C',
    kind: 'band' as const,
    methods: ['bonded-sheet', 'leak-control-flange'],
    readFrom: 'data sheet, February 2026',
  },
  {
    ...label,
    id: 'mortar-d',
    name: 'Mortar D',
    maker: 'Maker D',
    kind: 'mortar' as const,
    methods: ['bonded-sheet'],
    figures: { notchMm: { least: 6.35 }, waterHours: { least: 24 }, workingC: { least: 5, most: 30 } },
    mortarKind: 'unmodified' as const,
    readFrom: 'bag, April 2026',
  },
].map((line) => ProductLine.parse(line));
