import { readFileSync } from 'node:fs';
import { CALCULATIONS, calculationSchema, findCalculation, runCalculation } from '@careful-seam/core/calc/registry';
import { refuse } from '@careful-seam/core/outcome/outcome';
import { withMessage } from '../errors/errors';

/** `calc -- NAME < in.json`, `calc -- --list`, `calc -- --schema NAME`. Exit 1 with a typed error on expected failures. */
function main(args: readonly string[]): number {
  const [first, second] = args;
  if (first === '--list') {
    for (const c of CALCULATIONS) console.log(`${c.name}\t${c.title}`);
    return 0;
  }
  if (first === '--schema') {
    const found = findCalculation(second ?? '');
    if (found) console.log(JSON.stringify(calculationSchema(found), null, 2));
    return found ? 0 : answer(runCalculation(second ?? '', null));
  }
  let input: unknown;
  try {
    input = JSON.parse(readFileSync(0, 'utf8'));
  } catch {
    return answer(refuse('input-not-json', 'input'));
  }
  return answer(runCalculation(first ?? '', input));
}

/** Prints what a sum came to, or why it can not be worked out; gives the exit code. */
function answer(outcome: ReturnType<typeof runCalculation>): number {
  console.log(JSON.stringify(outcome.ok ? outcome.value : { error: withMessage(outcome.problem, 'en') }));
  return outcome.ok ? 0 : 1;
}

process.exitCode = main(process.argv.slice(2));
