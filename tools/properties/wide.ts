// Stands in for fast-check in `npm run properties`: every property with many more examples, from a new seed each time.
// What only fails once in thousands of examples is found here, by somebody who looks for it, and not by a build.
import real from '../../node_modules/fast-check/lib/fast-check.js';

export * from '../../node_modules/fast-check/lib/fast-check.js';

/** How many times the examples of each property; its own count stands in the test. */
const TIMES = Number(process.env.PROPERTY_TIMES ?? 20);
/** What fast-check runs where a property names no count. */
const USUAL_RUNS = 100;

const assert: typeof real.assert = (property: never, { seed: _, ...rest }: { seed?: number; numRuns?: number } = {}) =>
  // No time limit of the property's own and no shrinking limit: it runs until all its examples are through.
  real.assert(property, { ...rest, numRuns: (rest.numRuns ?? USUAL_RUNS) * TIMES }) as never;

export default { ...real, assert };
