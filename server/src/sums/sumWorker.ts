import { runCalculation } from '@careful-seam/core/calc/registry';

/** One sum in a process of its own: it says that it is there, is told once, answers once, and ends. */
process.once('message', ({ name, input }: { name: string; input: unknown }) => {
  process.send!(runCalculation(name, input), () => process.exit(0));
});
process.send!('ready');
