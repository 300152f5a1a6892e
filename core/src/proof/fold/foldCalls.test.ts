import { describe, expect, it } from 'vitest';
import type { Body } from '../../log/bodies';
import { begun, CREW, fold, MANAGER, tablet } from '../../tests/sampleTablet';

const opened: Body<'call-opened'> = {
  words: 'A stain on the ceiling of the hall',
  symptoms: [
    {
      place: { on: 'ceiling', xMm: 100, yMm: 0 },
      when: 'after-long',
      amount: 'drops',
      signs: ['mould'],
      since: '2026-11-01',
    },
  ],
};

describe('a call about water', () => {
  it('gathers its tests and its end; what is taken back goes, and comes back with it', () => {
    const t = begun();
    const call = t.write('call-opened', opened);
    const first = t.write('call-tested', { call, test: { kind: 'supply' }, outcome: 'dry' });
    t.write('call-tested', { call, test: { kind: 'flood', levelMm: 60 }, outcome: 'water', minutes: 140 });
    const end = t.write('call-closed', { call, found: { element: 'drain:d', kind: 'drain' } });
    const state = fold(t.entries);
    expect(state.calls.get(call)).toMatchObject({
      opened: { body: opened },
      tests: [{ body: { outcome: 'dry' } }, { body: { outcome: 'water' } }],
      closed: { body: { found: { kind: 'drain' } } },
    });
    expect(state.orphans).toEqual([]);
    t.write('correction', { target: first, action: 'withdraw', reason: 'the wrong valve' });
    t.write('correction', { target: end, action: 'withdraw' });
    const less = fold(t.entries).calls.get(call)!;
    expect(less.tests).toHaveLength(1);
    expect(less.closed).toBeNull();
  });

  it('a test or an end of a call that is unknown or taken back is listed, and applied to none', () => {
    const t = begun();
    const call = t.write('call-opened', opened);
    const test = t.write('call-tested', { call, test: { kind: 'door' }, outcome: 'dry' });
    t.write('correction', { target: call, action: 'withdraw' });
    const stray = t.write('call-closed', { call: '99999999-9999-4999-8999-999999999999', found: null });
    const { calls, orphans } = fold(t.entries);
    expect(calls.size).toBe(0);
    expect(orphans).toEqual([
      { entry: test, why: 'target-withdrawn' },
      { entry: stray, why: 'target-unknown' },
    ]);
  });

  it('is no crew’s to write, and holds and releases nothing', () => {
    const crew = tablet(7, undefined, CREW);
    const t = begun();
    crew.hears(t.entries);
    crew.write('call-opened', opened);
    const state = fold([...t.entries, ...crew.entries]);
    expect(state.calls.size).toBe(0);
    expect(state.orphans).toMatchObject([{ why: 'not-allowed' }]);
    const boss = tablet(8, undefined, MANAGER);
    boss.hears(t.entries);
    boss.write('call-opened', opened);
    const before = fold(t.entries);
    const after = fold([...t.entries, ...boss.entries]);
    expect(after.calls.size).toBe(1);
    expect([...after.stages].map(([k, s]) => [k, s.word])).toEqual([...before.stages].map(([k, s]) => [k, s.word]));
  });
});

describe('two who end one call at once', () => {
  it('come to one end, whatever arrives first; taking the later back lets the earlier stand', () => {
    const t = begun();
    const call = t.write('call-opened', opened);
    const [one, two] = [tablet(21), tablet(22)];
    for (const each of [one, two]) each.hears(t.entries);
    one.write('call-closed', { call, found: { element: 'drain:d', kind: 'drain' } });
    two.until(one.nowMs() + 5000);
    two.write('call-closed', { call, found: null });
    const last = two.entries.at(-1)!;
    const told = (entries: typeof t.entries) => fold(entries).calls.get(call)!.closed!.body.found;
    expect(told([...t.entries, ...one.entries, ...two.entries])).toBeNull();
    expect(told([...two.entries, ...one.entries, ...t.entries])).toBeNull();
    two.write('correction', { target: last.id, action: 'withdraw' });
    expect(told([...two.entries, ...t.entries, ...one.entries])).toEqual({ element: 'drain:d', kind: 'drain' });
  });
});
