import { z } from 'zod';
import { anyMm, oneOrMore } from '../units/bounded';
import { id, key, PhotoUse, words } from './places';

/** When water shows. */
export const WHENS = ['at-once', 'after-long', 'always', 'door-closed', 'with-people', 'neighbours'] as const;
/** One of them. */
export type When = (typeof WHENS)[number];

/** How much water there is. */
export const AMOUNTS = ['damp', 'drops', 'runs'] as const;

/** Further signs of a leak. */
export const SIGNS = ['smell', 'mould', 'dark-floor'] as const;
/** One of them. */
export type Sign = (typeof SIGNS)[number];

const edge = z.string().min(1).max(60);
/** Where somebody saw water: on the ceiling below, on the other side of a wall, before the curb, or only inside. Lengths in mm. */
export const SymptomPlace = z.discriminatedUnion('on', [
  /** In plan, by the footprint’s own axes. */
  z.object({ on: z.literal('ceiling'), xMm: anyMm, yMm: anyMm }),
  /** From the wall’s left end and foot as seen from inside the shower. */
  z.object({ on: z.literal('wall'), edge, alongMm: anyMm, heightMm: anyMm }),
  z.object({ on: z.literal('curb'), edge, alongMm: anyMm }),
  z.object({ on: z.literal('inside') }),
]);
/** One of them. */
export type SymptomPlace = z.infer<typeof SymptomPlace>;

/** What somebody tells of water where it should not be. */
export const Symptom = z.object({
  place: SymptomPlace,
  when: z.enum(WHENS),
  amount: z.enum(AMOUNTS),
  /** The day it was seen first. */
  since: z.iso.date().optional(),
  signs: z.array(z.enum(SIGNS)).max(SIGNS.length),
  /** How long after the last shower the floor is still dark, hours. */
  darkHours: z.number().min(0).max(2000).optional(),
});
/** One of them. */
export type Symptom = z.infer<typeof Symptom>;

/** What can be tried to find a way of water. */
export const SITE_TESTS = ['supply', 'drain-line', 'flood', 'spray', 'door', 'dam', 'map', 'trim', 'open'] as const;
/** One of them. */
export type SiteTestKind = (typeof SITE_TESTS)[number];

/** A test: on what, or to which level. `dam` wets one corner of the floor alone, `map` is a moisture meter’s round, `trim` a look behind a valve’s, `open` takes out tile. */
export const SiteTest = z.object({
  kind: z.enum(SITE_TESTS),
  /** Of a flood: its level over the drain’s rim, mm. */
  levelMm: anyMm.optional(),
  /** Of a spray: the wall’s edge. */
  wall: z.string().min(1).max(60).optional(),
  /** Of a dam: the corner of the footprint, counted from 0. */
  corner: z.number().int().min(0).max(1000).optional(),
  /** Of a look behind a trim, or of an opened tile: the element. */
  element: z.string().min(1).max(300).optional(),
});
/** One of them. */
export type SiteTest = z.infer<typeof SiteTest>;

/** It showed water, or it did not, or nobody could tell. A moisture map shows the side where it is wettest instead. */
export const WATER = 'water';
export const DRY = 'dry';
export const UNCLEAR = 'unclear';
/** Of what was opened: it broke while it was taken out, so that it tells nothing of the leak. */
export const SPOILT = 'spoilt';

/** Parts of a shower as they come out, and the cautions before the first of them. */
export const STRIP_PARTS = [
  'safety',
  'fittings',
  'door-frame',
  'wall-tile',
  'wall-membrane',
  'wall-board',
  'stud-bay',
  'curb',
  'floor-tile',
  'bed',
  'floor-membrane',
  'base',
  'drain',
  'subfloor',
  'trap',
] as const;
/** One of them. */
export type StripPart = (typeof STRIP_PARTS)[number];

/** What a part was: sound, at fault, spoilt by taking it out, or not there at all. */
export const STRIP_VERDICTS = ['sound', 'faulty', 'removal', 'absent'] as const;
/** One of them. */
export type StripVerdict = (typeof STRIP_VERDICTS)[number];

/** How a board or a pan gives way when it is taken out. */
export const BREAKS = ['layers', 'one-piece', 'crumbles', 'cuts', 'meshed', 'lumps', 'fibres', 'rings'] as const;
/** What it is like inside. */
export const INSIDES = ['white', 'brown', 'grey', 'foam', 'stone', 'glass', 'metal'] as const;
/** Signs by which a material is told. */
export const BreakSigns = z.object({ how: z.enum(BREAKS).optional(), inside: z.enum(INSIDES).optional() });
/** How a thing broke, as far as somebody said. */
export type BreakSigns = z.infer<typeof BreakSigns>;

/** How a trap was found. Its pipe’s size in mm. */
export const TrapFound = z.object({ clogged: z.boolean(), debris: z.boolean(), pipeMm: anyMm });
/** One of them. */
export type TrapFound = z.infer<typeof TrapFound>;

/** How a floor looks some hours after the last shower. */
export const FLOOR_LOOKS = ['dark', 'patchy', 'dry'] as const;

/** What entries about a call say: a shower that stands lets water through somewhere, from the call to what was found. */
export const CALL_BODIES = {
  'call-opened': z.object({
    /** What was told, in words. */
    words,
    symptoms: z.array(Symptom).max(12),
    photos: z.array(PhotoUse).max(12).optional(),
  }),
  'call-tested': z
    .object({
      call: id,
      test: SiteTest,
      /** `water`, `dry`, `unclear`, a side of the shower, or of what was opened `spoilt`. */
      outcome: key,
      /** Of a flood whose level settled: where, over the drain’s rim, and how much water a hole of its size holds back, mm. */
      settled: z.object({ lowMm: anyMm, highMm: anyMm, heldBackMm: z.number().min(0).max(1000) }).optional(),
      /** How long it took, minutes. */
      minutes: z.number().min(0).max(20_000).optional(),
      words: z.string().max(2000).optional(),
      photos: z.array(PhotoUse).max(12).optional(),
    })
    // A test that was over before it began is none.
    .refine((b) => b.test.kind !== 'flood' || b.test.levelMm !== undefined, {
      path: ['test', 'levelMm'],
      message: 'level-missing',
    }),
  /** One part as it came out, or was looked at where it stays. */
  'part-stripped': z.object({
    call: id,
    part: z.enum(STRIP_PARTS),
    /** The edge of the footprint that it belongs to, `floor`, or `shower` for what is of no side. */
    side: edge,
    verdict: z.enum(STRIP_VERDICTS),
    /** Where it was at fault; missing where that is all of it. */
    element: z.string().min(1).max(300).optional(),
    /** The highest mark of water, from the wall’s left end and the drain’s rim, mm. */
    mark: z.object({ alongMm: anyMm, heightMm: anyMm }).optional(),
    breaks: BreakSigns.optional(),
    trap: TrapFound.optional(),
    words: z.string().max(2000).optional(),
    /** Pictures from before it was touched, and from after. */
    before: z.array(PhotoUse).max(12),
    after: z.array(PhotoUse).max(12),
  }),
  /** The floor as it looked some hours after the last shower. */
  'floor-watched': z.object({
    call: id,
    hours: z.number().min(0).max(2000),
    look: z.enum(FLOOR_LOOKS),
    photos: z.array(PhotoUse).min(1).max(4),
  }),
  'call-closed': z.object({
    call: id,
    /** What let the water through: an element, a pipe, a thing without a place; null: the path stays unknown, and is kept as that. */
    found: z.object({ element: z.string().min(1).max(300), kind: key }).nullable(),
    words: z.string().max(2000).optional(),
    /** What tracing said of it when it was found: its place among so many, and its probability. */
    foretold: z.object({ place: oneOrMore, of: oneOrMore, probability: z.number().min(0).max(1) }).optional(),
    /** The two answers of a defect. */
    cause: key.optional(),
    escape: key.optional(),
    /** What it costs to put right. */
    cost: z.object({ hours: z.number().min(0).max(10_000), materials: z.number().min(0).max(1_000_000) }).optional(),
    photos: z.array(PhotoUse).max(12).optional(),
  }),
} as const;
