import type { Pinned } from '@careful-seam/core/rules/combineMethods';
import type { RuleBook } from '@careful-seam/core/rules/ruleBook';
import type { LocalShower } from '../../tablet/store';
import type { NewForm } from './fields';

/** The name of the shower that a form begins from; empty for a new one. */
export const nameOf = (start: Start): string =>
  start.kind === 'new' ? '' : (start.shower.state.created?.body.name ?? '');

/** Where a form of an existing shower fills in what the drawing does not know. */
export function namesOf({ kind, shower }: Exclude<Start, { kind: 'new' }>) {
  const { name = '', job = '', crewId = '' } = shower.state.created?.body ?? {};
  return { name: kind === 'edit' ? name : '', job, crewId };
}

/** The shower that a copy follows, with its version: that of a copy's own type, so that all follow one. */
export function typeOf({ id, state }: LocalShower): { shower: string; version: number } {
  return state.geometry!.from ?? { shower: id, version: state.geometry!.version };
}

/** What a form begins from: nothing, another shower of the same type, or the shower whose dimensions change. */
export type Start = { kind: 'new' } | { kind: 'like' | 'edit'; shower: LocalShower };

/** The form as it was kept with a drawing; null when the shower was not drawn by it. */
export function keptForm({
  state,
}: LocalShower): { typed: NewForm & { unit: 'in' | 'mm' }; ids: Record<string, string> } | null {
  const drawing = state.geometry?.drawing;
  return drawing ? { typed: drawing.typed as unknown as NewForm & { unit: 'in' | 'mm' }, ids: drawing.ids } : null;
}

/** The product lines of the shower whose type a copy follows. */
function linesFrom(start: Start): { lines?: string[] } {
  const lines = start.kind === 'like' ? start.shower.state.rules?.pinned.lines : undefined;
  return lines ? { lines: [...lines] } : {};
}

/** Where the inspection of a shower begins that is built anew: the first stage that is not of an old one. */
export const firstStage = (book: RuleBook | null): string =>
  book?.methods[0]?.stages.find((s) => !s.existing)?.key ?? '';

/** The rules as the form has them: the method, parts that differ, ways of building, where the inspection begins. */
export function pinnedBy(typed: NewForm, start: Start, book: RuleBook | null): Pinned {
  const differing = Object.entries(typed.parts).filter(([, m]) => m !== '' && m !== typed.method);
  return {
    method: typed.method,
    ...(differing.length > 0 ? { parts: Object.fromEntries(differing) } : {}),
    ...(typed.variants.length > 0 ? { variants: typed.variants } : {}),
    ...(typed.beginsAt === firstStage(book) ? {} : { beginsAt: typed.beginsAt }),
    ...linesFrom(start),
  };
}

/** Methods in the order in which they are offered: those that the firm usually builds by first. */
export function mainFirst<M extends { key: string }>(methods: readonly M[], main: readonly string[] = []): M[] {
  const rank = ({ key }: M) => (main.includes(key) ? main.indexOf(key) : main.length);
  return [...methods].sort((a, b) => rank(a) - rank(b));
}
