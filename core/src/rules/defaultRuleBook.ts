import { type Check, type Disagreement, RuleBook } from './ruleBook';
import book from './ruleBook4/book.json';
import disagreements from './ruleBook4/disagreements.json';
import stripOut from './ruleBook4/ladder/00-strip-out.json';
import framing from './ruleBook4/ladder/01-framing.json';
import subfloor from './ruleBook4/ladder/02-subfloor.json';
import drainRoughIn from './ruleBook4/ladder/03-drain-rough-in.json';
import base from './ruleBook4/ladder/04-base.json';
import boards from './ruleBook4/ladder/05-boards.json';
import penetrations from './ruleBook4/ladder/06-penetrations.json';
import curb from './ruleBook4/ladder/07-curb.json';
import niche from './ruleBook4/ladder/08-niche.json';
import bench from './ruleBook4/ladder/09-bench.json';
import membrane from './ruleBook4/ladder/10-membrane.json';
import drainTieIn from './ruleBook4/ladder/11-drain-tie-in.json';
import cure from './ruleBook4/ladder/12-cure.json';
import floodTest from './ruleBook4/ladder/13-flood-test.json';
import protection from './ruleBook4/ladder/14-protection.json';
import tile from './ruleBook4/ladder/15-tile.json';
import handOver from './ruleBook4/ladder/16-hand-over.json';
import callBack from './ruleBook4/ladder/17-call-back.json';
import methods from './ruleBook4/methods.json';
import es from './ruleBook4/texts.es.json';

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
  if (d.methods && !d.methods.includes(method)) return false;
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
            .map(({ methods: _methods, ...check }) => check),
          ...questions.filter((d) => d.stage === stage.key && concerns(d, method.key)).map(positionCheck),
        ],
      })),
    })),
    texts: { es },
  });
}
