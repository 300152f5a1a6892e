import type { ShowerState } from '../log/state';
import { offered } from '../rules/listed';
import type { RuleBook } from '../rules/ruleBook';
import { kindOfFailure } from '../rules/tools';

/** A kind of defect, as the book has it. */
type Kind = RuleBook['defectKinds'][number];

/** What sort of thing an element is: what can go wrong with a seam can't go wrong with a drain. */
function sortOf(state: ShowerState, element: string): 'seam' | 'corner' | 'penetration' | 'drain' | 'face' | 'whole' {
  const { model } = state.geometry!;
  if (state.seamById.has(element)) return 'seam';
  if (model.corners.some((c) => c.id === element)) return 'corner';
  if (model.penetrations.some((p) => p.id === element)) return 'penetration';
  if (model.drain.id === element) return 'drain';
  return model.faces.some((f) => f.id === element) ? 'face' : 'whole';
}

/** Which kinds checks name when they fail: in any method of the book, and in those of this shower at this stage, by sort of element. */
function namedKinds(state: ShowerState, stage: string) {
  const { book } = state.rules!;
  const anywhere = new Set(
    book.methods.flatMap((m) => m.stages.flatMap((s) => s.checks.flatMap((c) => kindOfFailure(c) ?? []))),
  );
  const here = new Map<string, Set<string>>();
  const inShower = new Set(state.rules!.method.stages.flatMap((s) => s.checks.flatMap((c) => kindOfFailure(c) ?? [])));
  for (const r of state.requirements) {
    const kind = r.stage.key === stage ? kindOfFailure(r.check) : null;
    if (kind !== null) here.set(kind, (here.get(kind) ?? new Set()).add(sortOf(state, r.element)));
  }
  return { anywhere, inShower, here };
}

/**
 * The kinds of defect that can be chosen at an element at a stage, the likeliest first: those that its checks name when they fail
 * (of the check that failed first of all), then what else a stage can have. Left out are kinds that only checks of other methods
 * name, and kinds that the checks of this stage name for another sort of element alone. `kept` is one that was chosen before, and
 * stays; `failed` the id of the check that failed.
 */
export function kindsHere(
  state: ShowerState,
  stage: string,
  element: string,
  kept: string | null = null,
  failed: string | null = null,
): { kinds: Kind[]; usual: string[] } {
  const asked = state.requirements.filter((r) => r.stage.key === stage && r.element === element).map((r) => r.check);
  const first = asked.filter((c) => c.id === failed);
  const usual = [...new Set([...first, ...asked].flatMap((c) => kindOfFailure(c) ?? []))];
  const { anywhere, inShower, here } = namedKinds(state, stage);
  const sort = sortOf(state, element);
  const fits = ({ id }: Kind) =>
    (!anywhere.has(id) || inShower.has(id)) && (!here.has(id) || sort === 'whole' || here.get(id)!.has(sort));
  const rank = ({ id }: Kind) => (usual.includes(id) ? usual.indexOf(id) : usual.length);
  const kinds = offered(state.rules!.book.defectKinds, kept)
    .filter((k) => k.id === kept || usual.includes(k.id) || (k.stages.includes(stage) && fits(k)))
    .sort((a, b) => rank(a) - rank(b));
  return { kinds, usual };
}
