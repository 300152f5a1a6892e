import { describe, expect, it } from 'vitest';
import { isWorse, whereOpen } from '../checks/acceptance';
import type { Severity } from '../rules/checks/checkBase';
import { sampleModel } from '../tests/sampleShower';
import { begun, byOther, CREW, fold, INSPECTOR, MANAGER, tablet } from '../tests/sampleTablet';
import type { Entry, EntryOf } from './entry';
import { byManager, isMilder, mayBe, mayCorrect, roleOf, SLIP_MS, thingOf } from './who';

const written = (
  author = INSPECTOR,
  kind: 'note' | 'stage-released' | 'defect-found' = 'note',
  body: object = { words: 'x' },
) => {
  const t = tablet(1, undefined, author);
  t.write(kind, body as never);
  return t.entries[0]! as Entry;
};

describe('who may', () => {
  it('an entry counts as its author’s role, without one as an inspector’s', () => {
    const entry = written(MANAGER);
    expect([roleOf(entry), byManager(entry)]).toEqual(['manager', true]);
    const { role: _, ...nobody } = entry.author;
    expect([roleOf({ author: nobody }), byManager({ author: nobody })]).toEqual(['inspector', false]);
    expect(byManager(written())).toBe(false);
    expect(mayBe(written(CREW, 'stage-released', { stage: 'base' }))).toBe(false);
    expect(mayBe(written(INSPECTOR, 'stage-released', { stage: 'base' }))).toBe(true);
    expect(mayBe({ ...written(CREW, 'stage-released', { stage: 'base' }), author: nobody })).toBe(true);
  });
  it('stop is graver than fix, fix than note', () => {
    const order: Severity[] = ['stop', 'fix', 'note'];
    for (const [i, a] of order.entries()) for (const [k, b] of order.entries()) expect(isMilder(a, b)).toBe(i > k);
  });
  it('one corrects one’s own; a defect is taken back or made milder by a manager, apart from a slip of the finger', () => {
    const defect = (severity: Severity) =>
      written(INSPECTOR, 'defect-found', {
        stage: 'base',
        places: [{ element: 'floor' }],
        severity,
        words: 'w',
        photos: [],
      });
    const correction = (target: Entry, afterMs: number, body: object, author = INSPECTOR) =>
      ({
        ...target,
        kind: 'correction',
        author,
        // An order is a moment and a count; only its moment matters here.
        orderAt: target.orderAt.replace(/^\d+/, (ms) => String(Number(ms) + afterMs).padStart(ms.length, '0')),
        body: { target: target.id, reason: 'r', ...body },
      }) as unknown as EntryOf<'correction'>;
    const withdraw = { action: 'withdraw' };
    const stop = defect('stop');
    expect(mayCorrect(stop, correction(stop, SLIP_MS, withdraw))).toBe(true);
    expect(mayCorrect(stop, correction(stop, SLIP_MS + 1, withdraw))).toBe(false);
    expect(mayCorrect(stop, correction(stop, SLIP_MS + 1, withdraw, MANAGER))).toBe(true);
    expect(mayCorrect(stop, correction(stop, 0, withdraw, { ...INSPECTOR, id: 'another' }))).toBe(false);
    const note = defect('note');
    expect(mayCorrect(note, correction(note, SLIP_MS + 1, withdraw))).toBe(true);
    const to = (target: Entry, severity: unknown) =>
      mayCorrect(target, correction(target, SLIP_MS + 1, { action: 'replace', body: { severity } }));
    const fix = defect('fix');
    expect([to(fix, 'stop'), to(fix, 'fix'), to(fix, 'note')]).toEqual([true, true, false]);
    expect([to(stop, 'fix'), to(stop, 'whatever'), to(stop, undefined)]).toEqual([false, true, true]);
    const plain = written();
    expect(mayCorrect(plain, correction(plain, SLIP_MS * 9, withdraw))).toBe(true);
    // What was signed stands, for its signer, at once, and for a manager too.
    const signed = { ...plain, kind: 'record-signed' } as Entry;
    expect(mayCorrect(signed, correction(signed, 0, withdraw))).toBe(false);
    expect(mayCorrect(signed, correction(signed, 0, withdraw, MANAGER))).toBe(false);
  });
  it('a niche, a bench and a curb are one thing each, with their seams and corners', () => {
    const model = sampleModel({ niche: true });
    expect(thingOf(model, 'niche:n:sill')).toBe('niche:n');
    expect(thingOf(model, 'curb:front:top')).toBe('curb:front');
    expect(thingOf(model, 'floor')).toBe('floor');
    const edge = model.seams.find((s) => s.kind === 'niche-edge')!;
    expect(thingOf(model, edge.id)).toBe('niche:n');
    const foot = model.seams.find((s) => s.kind === 'curb-floor')!;
    expect(thingOf(model, foot.id)).toBe('curb:front');
    const corner = model.corners.find((c) => c.faces.some((f) => f.startsWith('niche:')))!;
    expect(thingOf(model, corner.id)).toBe('niche:n');
    expect(thingOf(model, 'floor-wall|floor|wall:back')).toBe('floor-wall|floor|wall:back');
  });
});

describe('what an acceptance was asked for', () => {
  const requirement = (hasLength: boolean) => ({ lengthMm: 1000, hasLength }) as never;
  const found = (verdict: string, failed: [number, number][] = [], missing: [number, number][] = []) =>
    ({
      verdict,
      failed: failed.map(([fromMm, toMm]) => ({ fromMm, toMm })),
      missing: missing.map(([fromMm, toMm]) => ({ fromMm, toMm })),
    }) as never;
  const where = (hasLength: boolean, ...of: Parameters<typeof found>) =>
    whereOpen(requirement(hasLength), found(...of)).map((s) => [s.fromMm, s.toMm]);
  it('where it failed, or where nobody looked, or all of it', () => {
    expect(
      where(true, 'fail', [
        [300, 400],
        [100, 200],
        [150, 250],
      ]),
    ).toEqual([
      [100, 250],
      [300, 400],
    ]);
    expect(where(true, 'fail', [], [[0, 9]])).toEqual([[0, 1000]]);
    expect(where(true, 'unseen', [[1, 2]], [[500, 700]])).toEqual([[500, 700]]);
    expect(where(true, 'unseen')).toEqual([[0, 1000]]);
    expect(where(true, 'undecided', [[1, 2]], [[500, 700]])).toEqual([[0, 1000]]);
    expect(where(false, 'fail', [[300, 400]])).toEqual([[0, 1000]]);
  });
  it('is worse in a new direction, or farther in one that was shown; as bad or better is not', () => {
    expect(isWorse({}, { low: -40 })).toBe(false);
    expect(isWorse({ low: -40 }, { low: -40 })).toBe(false);
    expect(isWorse({ low: -41 }, { low: -40 })).toBe(false);
    expect(isWorse({ low: -39.99 }, { low: -40 })).toBe(true);
    expect(isWorse({ low: -40 + 1e-7 }, { low: -40 })).toBe(false);
    expect(isWorse({ low: -40, high: 1 }, { low: -40 })).toBe(true);
    expect(isWorse({ high: 1 }, {})).toBe(true);
  });
  it('nobody answers his own asking, and no crew does', () => {
    const t = begun();
    const ask = () =>
      t.write('deviation-asked', {
        stage: 'base',
        check: 'bedding',
        place: { element: 'floor' },
        geometryVersion: 1,
        ruleVersion: 1,
        verdict: 'unseen',
        reason: 'r',
      });
    const first = ask();
    byOther(t, { ...MANAGER, id: INSPECTOR.id }, (boss) =>
      boss.write('deviation-decided', { asked: first, accepted: true, reason: 'mine' }),
    );
    expect(fold(t.entries).deviations.get(first)!.decision).toBeNull();
    byOther(t, MANAGER, (boss) => boss.write('deviation-decided', { asked: first, accepted: false, reason: 'no' }));
    expect(fold(t.entries).deviations.get(first)!.decision).toMatchObject({
      accepted: false,
      by: MANAGER.name,
      reason: 'no',
    });
    byOther(t, MANAGER, (boss) => boss.write('deviation-decided', { asked: 'nothing', accepted: true, reason: 'no' }));
    expect(fold(t.entries).orphans.map((o) => o.why)).toEqual(['target-unknown', 'target-unknown']);
  });
  it('an answer stands on the asking as it was read: one changed after it takes it back, one changed before does not', () => {
    const body = {
      stage: 'base',
      check: 'bedding',
      place: { element: 'floor' },
      geometryVersion: 1,
      ruleVersion: 1,
      verdict: 'unseen' as const,
      reason: 'r',
    };
    const answered = (order: ('correct' | 'decide')[]) => {
      const t = begun();
      const asked = t.write('deviation-asked', body);
      for (const step of order)
        if (step === 'correct')
          t.write('correction', { target: asked, action: 'replace', body: { ...body, reason: 'better said' } });
        else byOther(t, MANAGER, (boss) => boss.write('deviation-decided', { asked, accepted: true, reason: 'seen' }));
      const state = fold(t.entries);
      return [state.deviations.get(asked)!.decision?.accepted ?? null, state.orphans.map((o) => o.why)];
    };
    expect(answered(['decide'])).toEqual([true, []]);
    expect(answered(['correct', 'decide'])).toEqual([true, []]);
    expect(answered(['decide', 'correct'])).toEqual([null, ['not-allowed']]);
    expect(answered(['decide', 'correct', 'decide'])).toEqual([true, ['not-allowed']]);
  });
});
