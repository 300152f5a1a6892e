import { describe, expect, it } from 'vitest';
import { foldShower } from '../proof/fold/foldShower';
import { defaultRuleBook } from '../rules/defaultRuleBook';
import { kindOfFailure } from '../rules/tools';
import { sampleShower } from '../tests/sampleShower';
import { tablet } from '../tests/sampleTablet';
import { kindsHere } from './kindsHere';

const BOOK = defaultRuleBook();
/** A shower of a method of the shipped book. */
function shower(method: string) {
  const t = tablet(1);
  t.write('shower-created', { name: 'A', job: 'J', crewId: 'crew', timeZone: 'UTC' });
  t.write('geometry-set', { version: 1, geometry: sampleShower({}) });
  t.write('rules-pinned', { ruleBook: BOOK.id, version: BOOK.version, method });
  return foldShower(t.entries, () => BOOK);
}
/** One of so many. */
const each = <T>(all: readonly T[], of: number): T[] => all.filter((_, k) => k % of === 0);
const idsAt = (state: ReturnType<typeof shower>, stage: string, element: string, ...more: string[]) =>
  kindsHere(state, stage, element, ...more).kinds.map((k) => k.id);

describe('kinds of defect at a place', () => {
  const states = BOOK.methods.map((m) => [m.key, shower(m.key)] as const);

  it.each(states)('of %s: every check that names one finds it first at its own place', (_id, state) => {
    for (const { stage, element, check } of each(state.requirements, 7)) {
      const kind = kindOfFailure(check);
      if (kind === null) continue;
      expect(idsAt(state, stage.key, element, '', check.id)[0]).toBe(kind);
    }
  });

  it('leave out what only another method has', () => {
    const [, sheet] = states.find(([id]) => id === 'bonded-sheet')!;
    const only = new Set(sheet.requirements.flatMap((r) => kindOfFailure(r.check) ?? []));
    for (const [id, other] of states) {
      if (id === 'bonded-sheet') continue;
      const foreign = other.requirements
        .map((r) => kindOfFailure(r.check))
        .filter((k): k is string => k !== null && !only.has(k));
      for (const { stage, element } of each(sheet.requirements, 29))
        expect(idsAt(sheet, stage.key, element).filter((k) => foreign.includes(k))).toEqual([]);
    }
  });

  it('leave out at a drain what only seams have, and keep what was chosen before', () => {
    const [, sheet] = states.find(([id]) => id === 'bonded-sheet')!;
    const { drain } = sheet.geometry!.model;
    const lap = sheet.requirements.find((r) => r.hasLength && kindOfFailure(r.check) !== null)!;
    const kind = kindOfFailure(lap.check)!;
    const elsewhere = sheet.requirements.some((r) => r.element === drain.id && kindOfFailure(r.check) === kind);
    expect(elsewhere).toBe(false);
    expect(idsAt(sheet, lap.stage.key, lap.element)).toContain(kind);
    expect(idsAt(sheet, lap.stage.key, drain.id)).not.toContain(kind);
    expect(idsAt(sheet, lap.stage.key, drain.id, kind)).toContain(kind);
  });

  it('are never none, wherever one looks', () => {
    for (const [, state] of states)
      for (const { stage, element } of each(state.requirements, 23))
        expect(idsAt(state, stage.key, element).length).toBeGreaterThan(0);
  });
});
