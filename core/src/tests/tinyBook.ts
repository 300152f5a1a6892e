import { RuleBook } from '../rules/ruleBook';

const base = { why: 'for the test', source: 'common practice, no source' };
const floor = { element: 'face', kinds: ['floor'] };
const feet = { element: 'seam', kinds: ['floor-wall'], sides: 'none' };
const looked = (id: string, on: object, severity: string) => ({ ...base, id, kind: 'looked', label: id, on, severity });

/** A rule book with one check of each kind that the proof turns on: small enough that a second judge can be written plainly. */
export const TINY = RuleBook.parse({
  id: 'tiny',
  version: 1,
  title: 'Tiny book',
  deference: ['x'],
  defectKinds: [],
  methods: [
    {
      key: 'tiny',
      label: 'Tiny',
      stages: [
        {
          key: 'base',
          order: 1,
          label: 'Base',
          holdPoint: true,
          checks: [
            looked('bedding', floor, 'stop'),
            looked('mortar', floor, 'fix'),
            {
              ...base,
              id: 'fall',
              kind: 'measured',
              label: 'fall',
              on: floor,
              severity: 'fix',
              instrument: 'level',
              limit: { atLeastMm: 12, atMostMm: 25 },
              pattern: { readingsAtLeast: 2, speaksForMm: 150 },
            },
          ],
        },
        {
          key: 'membrane',
          order: 2,
          label: 'Membrane',
          holdPoint: true,
          checks: [
            {
              ...base,
              id: 'lap',
              kind: 'measured',
              label: 'lap',
              on: feet,
              severity: 'stop',
              instrument: 'tape',
              limit: { atLeastMm: 50 },
              pattern: { readingsAtLeast: 2, speaksForMm: 150, endWithinMm: 150, gapAtMostMm: 600, lookOnWhole: true },
            },
            looked('bond', feet, 'stop'),
            looked('point', { element: 'corner' }, 'fix'),
          ],
        },
        {
          key: 'cure',
          order: 3,
          label: 'Cure',
          holdPoint: true,
          checks: [
            {
              ...base,
              id: 'mortar-cure',
              kind: 'wait',
              label: 'cure',
              on: { element: 'shower' },
              severity: 'fix',
              after: ['membrane'],
              hours: 24,
            },
          ],
        },
        {
          key: 'flood-test',
          order: 4,
          label: 'Flood',
          holdPoint: true,
          checks: [
            {
              ...base,
              id: 'holds-water',
              kind: 'flood',
              label: 'holds water',
              on: { element: 'shower' },
              severity: 'stop',
              plannedHours: 24,
              fillOverDrainMm: 76.2,
              atThresholdAtLeastMm: 50.8,
              belowCurbMm: 12.7,
              smallestLeakMmPerDay: 1,
              readWithinHours: 2,
              preparation: [],
              places: [{ id: 'below', label: 'below' }],
            },
          ],
        },
        {
          key: 'tile',
          order: 5,
          label: 'Tile',
          holdPoint: false,
          checks: [looked('joint', feet, 'fix'), looked('grout', floor, 'note')],
        },
      ],
    },
  ],
});
