import type { PlanPoint } from '@careful-seam/core/shower/geometry/point';
import { rodReadingMm } from '@careful-seam/files/instruments/senml';
import { type Instrument, useInstrument } from '../../ui/instrument/useInstrument';

/** A laser receiver with what it reads. */
export interface Laser extends Omit<Instrument, 'tell'> {
  /** Tells a simulated receiver where the rod stands; a real one knows nothing of it. */
  setRod: (place: PlanPoint) => void;
}

/** A laser receiver's readings, each handed on as it comes. */
export function useLaser(onReading: (rodMm: number) => void): Laser {
  const { tell, ...instrument } = useInstrument((pack) => {
    const rodMm = rodReadingMm(pack);
    if (rodMm !== null) onReading(rodMm);
  });
  return { ...instrument, setRod: (place) => tell('/rod', place) };
}
