import type { Check } from './checks/check';
import { NOT_KNOWN } from './notKnown';
import { type Disagreement, RuleBook } from './ruleBook';
import book from './shipped/book.json' with { type: 'json' };
import disagreements from './shipped/disagreements.json' with { type: 'json' };
import stripOut from './shipped/ladder/00-strip-out.json' with { type: 'json' };
import framing from './shipped/ladder/01-framing.json' with { type: 'json' };
import subfloor from './shipped/ladder/02-subfloor.json' with { type: 'json' };
import drainRoughIn from './shipped/ladder/03-drain-rough-in.json' with { type: 'json' };
import base from './shipped/ladder/04-base.json' with { type: 'json' };
import boards from './shipped/ladder/05-boards.json' with { type: 'json' };
import penetrations from './shipped/ladder/06-penetrations.json' with { type: 'json' };
import curb from './shipped/ladder/07-curb.json' with { type: 'json' };
import niche from './shipped/ladder/08-niche.json' with { type: 'json' };
import bench from './shipped/ladder/09-bench.json' with { type: 'json' };
import membrane from './shipped/ladder/10-membrane.json' with { type: 'json' };
import drainTieIn from './shipped/ladder/11-drain-tie-in.json' with { type: 'json' };
import cure from './shipped/ladder/12-cure.json' with { type: 'json' };
import floodTest from './shipped/ladder/13-flood-test.json' with { type: 'json' };
import protection from './shipped/ladder/14-protection.json' with { type: 'json' };
import tile from './shipped/ladder/15-tile.json' with { type: 'json' };
import handOver from './shipped/ladder/16-hand-over.json' with { type: 'json' };
import callBack from './shipped/ladder/17-call-back.json' with { type: 'json' };
import methods from './shipped/methods.json' with { type: 'json' };
import es from './shipped/texts.es.json' with { type: 'json' };
import { withLimitsInMm } from './typedLimits';

const LADDER = [
  stripOut,
  framing,
  subfloor,
  drainRoughIn,
  base,
  boards,
  penetrations,
  curb,
  niche,
  bench,
  membrane,
  drainTieIn,
  cure,
  floodTest,
  protection,
  tile,
  handOver,
  callBack,
] as const;

/** A question of the trade as a check of its stage: the firm's own position stands until another one was found. */
function positionCheck(d: Disagreement): Check {
  return {
    id: d.id,
    kind: 'position',
    on: { element: 'shower' },
    label: d.question,
    why: d.note,
    severity: 'fix',
    source: 'common practice, no source',
    disagreement: d.id,
  };
}

/** Questions that concern a method: where it has a position of its own, or everybody's. */
function concerns(d: Disagreement, method: string): boolean {
  // Of a shower that others built nobody asks how it was done.
  if (method === NOT_KNOWN || (d.methods && !d.methods.includes(method))) return false;
  return d.positions.some((p) => p.effect === 'accept' && (!p.methods || p.methods.includes(method)));
}

/**
 * The rule book that ships. The ladder is written stage by stage, each check with the methods that ask for it; here it
 * becomes one ladder for each method. Throws when the data is malformed.
 */
export function defaultRuleBook(): RuleBook {
  const questions = disagreements as Disagreement[];
  return RuleBook.parse({
    ...book,
    disagreements,
    methods: methods.map((method) => ({
      ...method,
      stages: LADDER.map((stage) => ({
        ...stage,
        checks: [
          ...(stage.checks as { methods: string[] }[])
            .filter((c) => c.methods.includes(method.key))
            .map(({ methods: _methods, ...check }) => withLimitsInMm(check)),
          ...questions.filter((d) => d.stage === stage.key && concerns(d, method.key)).map(positionCheck),
        ],
      })),
    })),
    texts: { es },
  });
}
