import { readFileSync } from 'node:fs';
import { refuse } from '../outcome/outcome';
import { asAnswer, CALCULATIONS, calculationSchema, findCalculation, runCalculation } from './registry';

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
    return answer(refuse('input-invalid', 'input', 'Standard input is not JSON. Send one JSON object.'));
  }
  return answer(runCalculation(first ?? '', input));
}

function answer(outcome: ReturnType<typeof runCalculation>): number {
  const { ok, json } = asAnswer(outcome);
  console.log(JSON.stringify(json));
  return ok ? 0 : 1;
}

process.exitCode = main(process.argv.slice(2));
