import { describe, expect, it } from 'vitest';
import { judge } from '../checks/judge';
import type { ShowerState } from '../log/state';
import { defaultRuleBook } from '../rules/defaultRuleBook';
import { sampleShower } from '../tests/sampleShower';
import { MANAGER, type Tablet, tablet } from '../tests/sampleTablet';
import { foldShower } from './fold/foldShower';
import { blockersOf } from './holds/release';
import { notInspected, waysOf } from './shown/waysOf';

const BOOK = defaultRuleBook();
const fold = (t: Tablet): ShowerState => foldShower(t.entries, () => BOOK);

function begun(
  rules: { method: string; parts?: { floor?: string }; beginsAt?: string },
  geometry = sampleShower(),
): Tablet {
  const t = tablet(1);
  t.write('shower-created', { name: 'Loft', job: 'Mill', crewId: 'crew-1', timeZone: 'Europe/Vienna' });
  t.write('geometry-set', { version: 1, geometry });
  t.write('rules-pinned', { ruleBook: BOOK.id, version: BOOK.version, ...rules });
  return t;
}
const verdict = (t: Tablet, check: string, element?: string) => {
  const state = fold(t);
  const r = state.requirements.find((x) => x.check.id === check && (!element || x.element === element))!;
  return judge(state, r);
};
const say = (t: Tablet, stage: string, check: string, element: string, more: object, answer: 'ok' | 'defect' = 'ok') =>
  t.write('look', { stage, checks: [check], places: [{ element }], answer, ...more });

describe('single figures', () => {
  it('pass inside their limit, fail outside, and the last one counts', () => {
    const t = begun({ method: 'liquid' });
    const stage = 'drain-rough-in';
    expect(verdict(t, 'pipe-tilt').verdict).toBe('unseen');
    say(t, stage, 'pipe-tilt', 'drain:d', { number: 4 });
    expect(verdict(t, 'pipe-tilt')).toMatchObject({ verdict: 'pass', number: 4 });
    say(t, stage, 'pipe-tilt', 'drain:d', { number: 6 }, 'defect');
    expect(verdict(t, 'pipe-tilt').verdict).toBe('fail');
    expect(fold(t).defects.size).toBe(1);
  });
  it('are undecided where the firm has set no limit', () => {
    const book = structuredClone(BOOK);
    for (const check of book.methods.flatMap((m) => m.stages.flatMap((s) => s.checks)))
      if (check.kind === 'number' && check.id === 'pipe-tilt') check.limit = null;
    const t = begun({ method: 'liquid' });
    say(t, 'drain-rough-in', 'pipe-tilt', 'drain:d', { number: 4 });
    const state = foldShower(t.entries, () => book);
    expect(judge(state, state.requirements.find((r) => r.check.id === 'pipe-tilt')!).verdict).toBe('undecided');
  });
});

describe('where the trade disagrees', () => {
  it('takes the firm’s own way until another one was found; one that deviates holds until a manager accepts it', () => {
    const t = begun({ method: 'liquid' });
    const way = (id: string) => waysOf(fold(t)).find((w) => w.id === id)!;
    expect(way('A33')).toMatchObject({ position: 'a', found: false, effect: 'accept' });
    expect(verdict(t, 'A33')).toMatchObject({ verdict: 'pass', satisfied: true });
    say(t, 'membrane', 'A34', 'shower', { position: 'b' });
    expect(way('A34')).toMatchObject({ found: true, effect: 'warning' });
    expect(verdict(t, 'A34').verdict).toBe('pass');
    say(t, 'membrane', 'A33', 'shower', { position: 'c' });
    expect(verdict(t, 'A33')).toMatchObject({ verdict: 'fail', satisfied: false, position: 'c' });
    expect(blockersOf(fold(t), 'membrane').some((b) => b.kind === 'check' && b.check === 'A33')).toBe(true);
    const asked = t.write('deviation-asked', {
      stage: 'membrane',
      check: 'A33',
      place: { element: 'shower' },
      geometryVersion: 1,
      ruleVersion: BOOK.version,
      verdict: 'fail',
      reason: 'The maker bridges cracks without fabric, letter attached',
    });
    const boss = tablet(2, undefined, MANAGER);
    boss.hears(t.entries);
    boss.write('deviation-decided', { asked, accepted: true, reason: 'Letter seen' });
    const state = foldShower([...t.entries, ...boss.entries], () => BOOK);
    expect(judge(state, state.requirements.find((r) => r.check.id === 'A33')!).satisfied).toBe(true);
  });
});

describe('two methods on one shower', () => {
  it('leave a transition undecided when it is named, until it is accepted', () => {
    const t = begun({ method: 'bonded-sheet', parts: { floor: 'ready-pan' } });
    const seam = 'floor-wall|floor|wall:back';
    expect(verdict(t, 'transition-detail', seam).verdict).toBe('unseen');
    say(t, 'membrane', 'transition-detail', seam, { shownBy: 'Detail T-2' });
    expect(verdict(t, 'transition-detail', seam)).toMatchObject({ verdict: 'undecided', satisfied: false });
  });
});

describe('an inspection that begins above the ground', () => {
  it('asks nothing of what lies below, and says so', () => {
    const t = begun({ method: 'bonded-sheet', beginsAt: 'base' });
    const state = fold(t);
    expect(notInspected(state)).toEqual(['Strip-out', 'Framing', 'Subfloor', 'Drain rough-in']);
    expect(state.requirements.some((r) => r.stage.order < 4)).toBe(false);
    expect(blockersOf(state, 'base').some((b) => b.kind === 'lower-stage')).toBe(false);
    expect(blockersOf(fold(begun({ method: 'bonded-sheet' })), 'base').some((b) => b.kind === 'lower-stage')).toBe(
      true,
    );
  });
  it('asks nothing either of parts that the shower has not', () => {
    const stages = fold(begun({ method: 'bonded-sheet' })).rules!.method.stages;
    const asked = (key: string) => stages.find((s) => s.key === key)!.checks.length;
    expect([asked('niche'), asked('bench'), asked('strip-out')]).toEqual([0, 0, 0]);
    expect(asked('membrane')).toBeGreaterThan(5);
  });
});
