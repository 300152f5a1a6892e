import { z } from 'zod';
import { done, type Outcome, refuse } from '../outcome/outcome';
import { degreesC, hoursSince } from '../units/bounded';

/** Schools of counting how far cement has come: by reaction rate [ASTM C1074], or by degree-hours [Nurse-Saul]. */
export const CURE_MODELS = ['arrhenius', 'nurse-saul'] as const;
/** The school by which cement is said to cure faster when it is warm. */
export type CureModel = (typeof CURE_MODELS)[number];

/** 0 °C, K. */
const ZERO_C_IN_K = 273.15;
/** Apparent activation energy over the gas constant, K [ASTM C1074, value from memory]. */
export const ACTIVATION_K = 5000;
/** Temperature at which degree-hours begin to count, °C [Nurse-Saul with datum 0 °C, value from memory]. */
export const DATUM_C = 0;
/** Temperature that a label's hours are taken to mean, °C [ASTM C1074, value from memory]. */
export const REFERENCE_C = 23;
/** Below this an hour counts nothing, °C: 40 °F and less is no weather for mortar [common practice, no source]. */
export const COLDEST_C = 5;
/** What air on a site can be, °C; more is a figure in another unit. */
const SITE_C = [-40, 60] as const;

/** What a school of counting cement is set by. */
const settings = {
  model: z.enum(CURE_MODELS),
  referenceC: z.number().min(COLDEST_C).max(60),
  activationK: z.number().positive().max(20_000).optional(),
  datumC: z.number().min(-20).max(20).optional(),
};
/** A log of temperatures whose age is asked for. */
export const CureAgeInput = z.object({
  /** How long which temperature held: hours and °C. */
  log: z
    .array(z.object({ hours: hoursSince, temperatureC: degreesC }))
    .min(1)
    .max(600_000),
  ...settings,
});
/** How long until an age is reached at one temperature. */
export const CureTimeInput = z.object({ needHours: hoursSince, temperatureC: degreesC, ...settings });

/** How temperature counts. */
export interface CureSettings {
  /** The school that was counted by. */
  model: CureModel;
  /** Temperature at which an hour counts as an hour, °C. */
  referenceC: number;
  /** Of Arrhenius: activation energy over the gas constant, K; the usual one where it is not given. */
  activationK?: number | undefined;
  /** Of degree-hours: below this nothing cures, °C. */
  datumC?: number | undefined;
}

/** 1 / K at the reference temperature: hours at it count as hours. */
const INVERSE_REFERENCE = 1 / (REFERENCE_C + ZERO_C_IN_K);

/** The same as `cureRate` for the Arrhenius form at the usual reference, bare: it is asked for each minute of a year. */
export function arrheniusRate(temperatureC: number): number {
  if (temperatureC < COLDEST_C) return 0;
  return Math.exp(-ACTIVATION_K * (1 / (temperatureC + ZERO_C_IN_K) - INVERSE_REFERENCE));
}

/**
 * What an hour at a temperature (°C) counts, in hours at the reference. ASTM C1074 describes the hydration of concrete;
 * for thin-set between sheets, where water must also leave, it is a stand-in.
 */
export function cureRate(
  temperatureC: number,
  { model, referenceC, activationK = ACTIVATION_K, datumC = DATUM_C }: CureSettings,
): number {
  if (temperatureC < COLDEST_C) return 0;
  if (model === 'nurse-saul') return Math.max(0, (temperatureC - datumC) / (referenceC - datumC));
  return Math.exp(-activationK * (1 / (temperatureC + ZERO_C_IN_K) - 1 / (referenceC + ZERO_C_IN_K)));
}

/** Asks about a temperature that no site has: 92 in a field of °C is a figure in °F. */
export function siteTemperature(temperatureC: number, field: string): Outcome<number> {
  const [least, most] = SITE_C;
  if (temperatureC >= least && temperatureC <= most) return done(temperatureC);
  const read = Math.round(temperatureC * 10) / 10;
  const celsius = Math.round(((temperatureC - 32) * 5) / 9);
  return temperatureC > most
    ? refuse('temperature-in-fahrenheit', field, { read, celsius })
    : refuse('temperature-off-site', field, { read });
}

/**
 * Equivalent age of cement: Σ rate · Δt, in hours at the reference temperature [form of ASTM C1074; Nurse-Saul]. Refuses
 * temperatures that no site has, naming the entry of the log.
 */
export function cureAge({ log, ...settings }: z.infer<typeof CureAgeInput>): Outcome<{ equivalentHours: number }> {
  let equivalentHours = 0;
  for (const [i, { hours, temperatureC }] of log.entries()) {
    const read = siteTemperature(temperatureC, `log.${i}.temperatureC`);
    if (!read.ok) return read;
    equivalentHours += hours * cureRate(temperatureC, settings);
  }
  return done({ equivalentHours });
}

/** Hours at one temperature that come to `needHours` at the reference; null where it never ends. */
export function cureTime({
  needHours,
  temperatureC,
  ...settings
}: z.infer<typeof CureTimeInput>): Outcome<{ hours: number | null }> {
  const read = siteTemperature(temperatureC, 'temperatureC');
  if (!read.ok) return read;
  const rate = cureRate(temperatureC, settings);
  return done({ hours: rate > 0 ? needHours / rate : null });
}
