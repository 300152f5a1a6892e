import { done, type Outcome } from '@careful-seam/core/outcome/outcome';
import { refuse } from '@careful-seam/words/errors/errors';
import { z } from 'zod';

/** One record of a SenML pack as it is sent [RFC 8428]. */
const Record = z.object({
  bn: z.string().optional(),
  bt: z.number().optional(),
  bu: z.string().optional(),
  bv: z.number().optional(),
  n: z.string().optional(),
  u: z.string().optional(),
  t: z.number().optional(),
  v: z.number().optional(),
  vb: z.boolean().optional(),
});

/** A record with its base values put in: what was measured, in which unit. */
export interface Measured {
  /** What is measured. */
  name: string;
  /** Null for none. */
  unit: string | null;
  /** Null where it is no figure. */
  value: number | null;
  /** Null where it is no yes or no. */
  is: boolean | null;
  /** When, s since 1970. */
  timeS: number;
}

/** Reads a SenML pack: base values hold from where they stand to the end. */
export function readSenml(text: string): Outcome<Measured[]> {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    return refuse('instrument-not-json', 'senml');
  }
  const pack = z.array(Record).safeParse(json);
  if (!pack.success) return refuse('instrument-no-pack', 'senml');
  let [bn, bt, bu, bv] = ['', 0, null as string | null, 0];
  return done(
    pack.data.map((r) => {
      [bn, bt, bu, bv] = [r.bn ?? bn, r.bt ?? bt, r.bu ?? bu, r.bv ?? bv];
      return {
        name: bn + (r.n ?? ''),
        unit: r.u ?? bu,
        value: r.v === undefined ? null : r.v + bv,
        is: r.vb ?? null,
        timeS: bt + (r.t ?? 0),
      };
    }),
  );
}

/** Units of length, mm. */
const MM: { [unit: string]: number } = { m: 1000, mm: 1, cm: 10 };

/** The rod reading in a pack, mm, or null when it holds none. */
export function rodReadingMm(pack: readonly Measured[]): number | null {
  const found = pack.find((m) => m.name.endsWith('rod') && m.value !== null && m.unit !== null && m.unit in MM);
  return found ? found.value! * MM[found.unit!]! : null;
}

/** Whether the instrument says of itself that it is simulated. */
export const isSimulated = (pack: readonly Measured[]): boolean =>
  pack.some((m) => m.name.endsWith('simulated') && m.is === true);

/** The air in a pack, °C and a share, or null when it holds not both. Units of RFC 8428: Cel (or K), %RH. */
export function airReading(pack: readonly Measured[]): { airC: number; relativeHumidity: number } | null {
  const warm = pack.find((m) => m.name.endsWith('temperature') && m.value !== null && /^(Cel|K)$/.test(m.unit ?? ''));
  const damp = pack.find((m) => m.name.endsWith('humidity') && m.value !== null && m.unit === '%RH');
  if (!warm || !damp) return null;
  return { airC: warm.unit === 'K' ? warm.value! - 273.15 : warm.value!, relativeHumidity: damp.value! / 100 };
}
