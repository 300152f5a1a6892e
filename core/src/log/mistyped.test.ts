import { describe, expect, it } from 'vitest';
import { judge } from '../checks/judge';
import { begun, byOther, climb, fold, INSPECTOR, lapReading, MANAGER, placeOf, seamId } from '../tests/sampleTablet';
import { correctionsTold, readingCorrected, statementsAt, takenBack } from './mistyped';

/** A shower up to its membrane, with the foot of a wall. */
function atMembrane() {
  const t = begun();
  climb(t, 'membrane');
  const foot = seamId(fold(t.entries), 'floor-wall');
  const side = fold(t.entries).requirements.find((r) => r.check.id === 'lap' && r.element === foot)!.side;
  const lap = () => {
    const state = fold(t.entries);
    return judge(state, state.requirements.find((r) => r.check.id === 'lap' && r.element === foot && r.side === side)!);
  };
  const said = (who: typeof INSPECTOR = INSPECTOR) => statementsAt(t.entries, 'membrane', foot, who);
  return { t, foot, side, lap, said };
}
const reading = (said: ReturnType<typeof statementsAt>[number]) => {
  if (said.statement.kind !== 'reading') throw new Error('a reading');
  return said.statement;
};

describe('a reading that was mistyped', () => {
  it('is corrected in its own place days later, and the defect that it raised goes with it', () => {
    const { t, foot, side, lap, said } = atMembrane();
    const id = lapReading(t, foot, side, 300, 22);
    expect([lap().verdict, fold(t.entries).defects.has(id)]).toEqual(['fail', true]);
    t.until(t.nowMs() + 3 * 86_400_000);
    const [now] = said();
    const wrong = reading(now!);
    t.write('correction', readingCorrected(wrong, { valueMm: 57.15, typed: '2 1/4', atMm: 330 }, 'mistyped'));
    const after = lap();
    expect(after.verdict).not.toBe('fail');
    expect(after.readings.map((r) => [r.entry, r.valueMm, r.atMm])).toEqual([[id, 57.15, 330]]);
    const { defects } = fold(t.entries);
    expect([...defects.values()].filter((d) => d.closedAt === null)).toEqual([]);
    // What it was stays, and is told beside what it is.
    const [corrected] = said();
    expect(corrected).toMatchObject({ statement: { body: { valueMm: 57.15 } }, first: { body: { valueMm: 22 } } });
    expect(t.entries.some((e) => e.id === id && e.kind === 'reading' && e.body.valueMm === 22)).toBe(true);
  });

  it('is corrected again from what was written, the last word counts, and both can be taken back', () => {
    const { t, foot, side, lap, said } = atMembrane();
    const id = lapReading(t, foot, side, 300, 22);
    const correct = (valueMm: number) =>
      t.write('correction', readingCorrected(reading(said()[0]!), { valueMm, typed: String(valueMm), atMm: 300 }, 'm'));
    correct(50);
    const last = correct(60);
    expect(lap().readings.map((r) => r.valueMm)).toEqual([60]);
    t.write('correction', { target: last, action: 'withdraw' });
    expect(lap().readings.map((r) => r.valueMm)).toEqual([50]);
    t.write('correction', takenBack(reading(said()[0]!), foot, 'never taken'));
    expect([lap().readings, said().some((s) => s.statement.id === id)]).toEqual([[], false]);
  });

  it('is one’s own or a manager’s to correct, and a reading made wrong by it fails as any other', () => {
    const { t, foot, side, lap, said } = atMembrane();
    lapReading(t, foot, side, 300, 60);
    const other = { ...INSPECTOR, id: 'person-other' };
    expect([said()[0], said(other)[0], said(MANAGER)[0]].map((s) => s!.mayCorrect)).toEqual([true, false, true]);
    byOther(t, other, (tablet) =>
      tablet.write('correction', readingCorrected(reading(said()[0]!), { valueMm: 90, typed: '90', atMm: 300 }, 'm')),
    );
    expect(lap().readings.map((r) => r.valueMm)).toEqual([60]);
    byOther(t, MANAGER, (tablet) =>
      tablet.write('correction', readingCorrected(reading(said()[0]!), { valueMm: 20, typed: '20', atMm: 300 }, 'm')),
    );
    expect(lap().verdict).toBe('fail');
  });
});

describe('what a stranger is told of corrections', () => {
  it('is what a reading was and is, by whom and when; a slip of the finger is none', () => {
    const { t, foot, side, said } = atMembrane();
    const id = lapReading(t, foot, side, 300, 22);
    const [wrong] = said();
    const at = (days: number) => t.until(t.nowMs() + days * 86_400_000);
    const correct = (valueMm: number) =>
      t.write('correction', readingCorrected(reading(wrong!), { valueMm, typed: '', atMm: 300 }, 'mistyped'));
    correct(30);
    expect(correctionsTold(t.entries)).toEqual([]);
    at(3);
    const last = correct(57);
    expect(correctionsTold(t.entries)).toEqual([
      {
        ...{ entry: id, kind: 'reading', action: 'replace', stage: 'membrane', check: 'lap', element: foot },
        ...{ firstMm: 22, nowMm: 57, reason: 'mistyped', by: INSPECTOR.name, at: expect.any(String) },
      },
    ]);
    // A correction that was itself taken back says nothing; the slip before it stands, and is none.
    t.write('correction', { target: last, action: 'withdraw' });
    expect(correctionsTold(t.entries)).toEqual([]);
    at(1);
    t.write('correction', takenBack(reading(said()[0]!), foot, 'never taken'));
    expect(correctionsTold(t.entries)).toMatchObject([{ action: 'withdraw', firstMm: 22, nowMm: null }]);
  });

  it('leaves out one whose author may not, and what has a list of its own', () => {
    const { t, foot, side, said } = atMembrane();
    lapReading(t, foot, side, 300, 22);
    t.until(t.nowMs() + 86_400_000);
    byOther(t, { ...INSPECTOR, id: 'person-other' }, (tablet) =>
      tablet.write('correction', takenBack(reading(said()[0]!), foot, 'no')),
    );
    expect(correctionsTold(t.entries)).toEqual([]);
    const created = t.entries.find((e) => e.kind === 'shower-created')!;
    byOther(t, MANAGER, (tablet) =>
      tablet.write('correction', {
        ...{ target: created.id, action: 'replace', body: { ...created.body, name: 'Renamed' } },
      }),
    );
    expect(correctionsTold(t.entries)).toEqual([]);
  });
});

describe('a look that was a slip', () => {
  it('is taken back of the one place; the others that it spoke of stay as they were', () => {
    const { t, foot, said } = atMembrane();
    const state = fold(t.entries);
    const places = state.requirements.filter((r) => r.check.id === 'bond').map((r) => placeOf(state, r.element));
    t.write('look', { stage: 'membrane', checks: ['bond'], places, answer: 'ok' });
    const bonded = () => {
      const now = fold(t.entries);
      return now.requirements.filter((r) => r.check.id === 'bond' && judge(now, r).verdict === 'pass').length;
    };
    const all = bonded();
    const [look] = said();
    t.write('correction', takenBack(look!.statement, foot, 'slip'));
    expect(bonded()).toBe(all - 1);
    expect(said()).toEqual([]);
    // The last place of all goes with the whole look.
    t.write('look', { stage: 'membrane', checks: ['bond'], places: [placeOf(state, foot)], answer: 'ok' });
    expect(takenBack(said()[0]!.statement, foot, 'slip')).toMatchObject({ action: 'withdraw' });
  });
});

describe('what is said of a place', () => {
  it('is what names it at that stage, newest first; notes of it at any', () => {
    const { t, foot, side, said } = atMembrane();
    lapReading(t, foot, side, 300, 60);
    lapReading(t, foot, side, 500, 61);
    t.write('note', { words: 'here', place: { element: foot } });
    t.write('note', { words: 'anywhere' });
    expect(said().map((s) => s.statement.kind)).toEqual(['note', 'reading', 'reading']);
    expect(said()[1]!.statement.body).toMatchObject({ valueMm: 61 });
    expect(statementsAt(t.entries, 'boards', foot, INSPECTOR).filter((s) => s.statement.kind === 'reading')).toEqual(
      [],
    );
  });
});
