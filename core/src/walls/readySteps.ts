/** How a method sets its first layer, which says what a substrate needs before it: bedded, thin-set, coated, or simply fixed. */
export const SETTINGS = ['bed', 'thin-set', 'coat', 'fixed'] as const;
/** One of them. */
export type Setting = (typeof SETTINGS)[number];

/** What a layer is set on. */
export const SUBSTRATES = ['wood', 'concrete', 'cement-board', 'gypsum', 'foam', 'mortar-bed', 'metal-flange'] as const;
/** What the membrane goes on. */
export type Substrate = (typeof SUBSTRATES)[number];

/** What makes a substrate ready, in the order in which it is done. */
export const READY_STEPS = [
  'sound',
  'swept',
  'sponged',
  'wiped',
  'degreased',
  'dampened',
  'primed',
  'slurried',
] as const;
/** One of them. */
export type ReadyStep = (typeof READY_STEPS)[number];

/**
 * The steps that a way of setting the first layer asks of a substrate before anything is set on it: sound and swept always; a thirsty one
 * dampened before cement; primer before a liquid coat; primer and slurry under a mortar bed; a metal flange degreased
 * [common practice, no source]. The label of the product comes first.
 */
export function readySteps(setting: Setting, substrate: Substrate): ReadyStep[] {
  if (substrate === 'metal-flange') return ['wiped', 'degreased'];
  if (setting === 'bed') {
    if (substrate === 'foam' || substrate === 'cement-board' || substrate === 'gypsum')
      return ['sound', 'swept', 'wiped'];
    return substrate === 'mortar-bed' ? ['sound', 'swept'] : ['sound', 'swept', 'primed', 'slurried'];
  }
  if (setting === 'coat') return ['sound', 'swept', 'wiped', 'primed'];
  if (setting === 'thin-set')
    return ['sound', 'swept', 'sponged', ...(substrate === 'foam' ? [] : (['dampened'] as const))];
  return ['sound', 'swept', 'wiped'];
}

/** What is still to do, and whether the next layer may go on. */
export interface Readiness {
  ready: boolean;
  missing: ReadyStep[];
}

/** Whether a substrate is ready: every step its setting asks for was answered as done. */
export function substrateReady(setting: Setting, substrate: Substrate, done: readonly ReadyStep[]): Readiness {
  const missing = readySteps(setting, substrate).filter((step) => !done.includes(step));
  return { ready: missing.length === 0, missing };
}
