import { asAnswer, runCalculation } from '@careful-seam/core/calc/registry';

/** One sum, in a thread of its own: what it gives goes back as JSON does. */
export default function sum({ name, input }: { name: string; input: unknown }): { ok: boolean; json: unknown } {
  return asAnswer(runCalculation(name, input));
}
