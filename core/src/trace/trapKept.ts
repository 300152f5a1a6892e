import type { TrapFound } from '../log/callBodies';
import { MM_PER_INCH } from '../units/length';

/** A shower's waste is as wide as this at least, mm [common practice, no source; the local code decides]. */
export const TRAP_PIPE_MM = 2 * MM_PER_INCH;
/** So far under the old drain the pipe of a trap that stays is cut, mm [common practice, no source]. */
export const CUT_UNDER_MM = 4 * MM_PER_INCH;
/** Pipes are told by their nominal size, so that a rule over one reads a little less, mm [own choice]. */
const NOMINAL_MM = 3;

/** Why a trap does not stay. */
export type TrapFault = 'clogged' | 'debris' | 'narrow';

/** What speaks against keeping a trap; nothing where it stays. */
export const trapFaults = ({ clogged, debris, pipeMm }: TrapFound): TrapFault[] => [
  ...(clogged ? (['clogged'] as const) : []),
  ...(debris ? (['debris'] as const) : []),
  ...(pipeMm < TRAP_PIPE_MM - NOMINAL_MM ? (['narrow'] as const) : []),
];
