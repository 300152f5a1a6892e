import type { ShowerState } from '@careful-seam/core/log/state';
import { flooded, logged, readyForWater, waterIn } from '@careful-seam/core/tests/sampleFlood';
import {
  begun,
  byOther,
  CREW,
  climb,
  fold,
  lapReading,
  pass,
  placeOf,
  releaseBody,
  SHOWER,
  seamId,
  type Tablet,
} from '@careful-seam/core/tests/sampleTablet';
import type { LocalShower } from '../../tablet/localShower';
import { emptyShower } from '../../tablet/stored';

/** A shower of the gallery: how it came to be so, and the stage and element that show it. */
export interface Sample {
  /** What it shows. */
  name: string;
  /** The shower as this tablet has worked it out. */
  shower: LocalShower;
  /** Key of the stage that is looked at. */
  stage: string;
  /** Id of the seam, corner, opening, drain or face. */
  element: string;
}

/** A state as the screens take it, with nothing behind it in a store. */
const localOf = (state: ShowerState): LocalShower => ({
  id: SHOWER,
  stored: emptyShower(SHOWER),
  entries: [],
  parsed: new Map(),
  unread: 0,
  state,
});

/** A shower whose base is released, at its membrane. */
function atMembrane(): Tablet {
  const t = begun();
  climb(t, 'curb');
  return t;
}

/** The side of a seam on which its lap is read first. */
const sideOf = (t: Tablet, seam: string): string | null =>
  fold(t.entries).requirements.find((r) => r.element === seam && r.check.id === 'lap')?.side ?? null;

/** An inside corner of two walls. */
const upright = (t: Tablet): string => seamId(fold(t.entries), 'wall-wall-inside');
/** The foot of a wall. */
const foot = (t: Tablet): string => seamId(fold(t.entries), 'floor-wall');

/** Invented showers, one for each way in which a map, a ladder and a card can stand. */
const MADE: readonly [name: string, stage: string, make: () => readonly [Tablet, string]][] = [
  ['nothing told yet', 'membrane', () => [begun(), 'floor']],
  [
    'some laps read',
    'membrane',
    () => {
      const t = atMembrane();
      const seam = foot(t);
      for (const atMm of [0, 300, 600]) lapReading(t, seam, sideOf(t, seam), atMm, 57.15);
      return [t, seam];
    },
  ],
  [
    'a short lap',
    'membrane',
    () => {
      const t = atMembrane();
      const seam = upright(t);
      lapReading(t, seam, sideOf(t, seam), 300, 38.1);
      return [t, seam];
    },
  ],
  [
    'covered before it was proved',
    'membrane',
    () => {
      const t = atMembrane();
      const seam = foot(t);
      byOther(t, CREW, (crew) =>
        crew.write('work-done', { stage: 'tile', crewId: 'crew', who: 'Cy Test', day: '2023-11-15' }),
      );
      return [t, seam];
    },
  ],
  [
    'passed and released',
    'membrane',
    () => {
      const t = atMembrane();
      pass(t, 'membrane');
      t.write('stage-released', releaseBody('membrane'));
      return [t, foot(t)];
    },
  ],
  [
    'built again after its release',
    'membrane',
    () => {
      const t = atMembrane();
      pass(t, 'membrane');
      t.write('stage-released', releaseBody('membrane'));
      const seam = foot(t);
      const place = placeOf(fold(t.entries), seam, { fromMm: 200, toMm: 500 });
      t.write('redo', { stage: 'membrane', places: [place], reason: 'Lifted edge cut out and set anew' });
      return [t, seam];
    },
  ],
  [
    'a drain that can not be seen',
    'drain-tie-in',
    () => {
      const t = atMembrane();
      const { drain } = fold(t.entries).geometry!.model;
      const asked = fold(t.entries).requirements.filter((r) => r.stage.key === 'drain-tie-in');
      t.write('look', {
        stage: 'drain-tie-in',
        checks: [asked.find((r) => r.element === drain.id)!.check.id],
        places: [{ element: drain.id }],
        answer: 'could-not-see',
        reason: 'Under mortar',
      });
      return [t, drain.id];
    },
  ],
  [
    'water in',
    'flood-test',
    () => {
      const t = readyForWater(begun());
      waterIn(t);
      logged(t);
      return [t, 'floor'];
    },
  ],
  [
    'proved by water',
    'membrane',
    () => {
      const t = flooded(begun());
      return [t, foot(t)];
    },
  ],
];

/** All of them, worked out as a tablet works its own out. */
export const makeSamples = (): Sample[] =>
  MADE.map(([name, stage, make]) => {
    const [t, element] = make();
    return { name, stage, element, shower: localOf(fold(t.entries)) };
  });
