import fc from 'fast-check';
import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import { type OldMapping, type OldNames, readOldDefects, sameOldDefect } from './oldDefects';

const TODAY = '2026-11-29';
const NAMES: OldNames = {
  kind: [
    { id: 'short-lap', names: ['Short lap', 'Solape corto'] },
    { id: 'wrinkle', names: ['Wrinkle or fishmouth'] },
  ],
  crew: [{ id: 'crew-heron', names: ['Crew Heron'] }],
  severity: [
    { id: 'stop', names: ['Stops work'] },
    { id: 'fix', names: ['To fix'] },
    { id: 'note', names: ['Note'] },
  ],
  stageFound: [{ id: 'membrane', names: ['Membrane'] }],
  stageMade: [{ id: 'membrane', names: ['Membrane'] }],
  group: [{ id: 'niche', names: ['niches'] }],
  cause: [{ id: 'tool', names: ['Tool'] }],
  escape: [{ id: 'not-done', names: ['Not looked at'] }],
};
const read = (text: string, mapping: OldMapping = {}) => readOldDefects(text, mapping, NAMES, TODAY);
const WHOLE = `Date found;Defect;Job;Room;Crew;Priority;Stage;Where;Cause;Why not caught;Date fixed;Hours;Material cost;Notes
03/25/2024;Short lap;Larkspur;2A;crew heron;TO FIX;membrane;Niches;tool;Not looked at;3/28/24;1,5;$1,250.00;"at the sill, left"
`;

describe('a table of old defects', () => {
  it('is read by its headings, whatever parts its columns, with days and figures as people write them', () => {
    const found = read(WHOLE);
    expect(found).toMatchObject({ days: 'mdy', daysSure: true, rows: 1, problems: [], unknown: [] });
    expect(found.defects).toEqual([
      {
        line: 2,
        found: '2024-03-25',
        kind: 'short-lap',
        job: 'Larkspur',
        shower: '2A',
        crew: 'crew-heron',
        severity: 'fix',
        stageFound: 'membrane',
        stageMade: 'membrane',
        group: 'niche',
        cause: 'tool',
        escape: 'not-done',
        closed: '2024-03-28',
        hours: 1.5,
        materials: 1250,
        words: 'at the sill, left',
      },
    ]);
    const spanish = read('\uFEFFFecha,Tipo,Baño\r\n25/03/2024,solape CORTO,2A\r\n\r\n');
    expect(spanish.defects).toMatchObject([{ found: '2024-03-25', kind: 'short-lap', shower: '2A', severity: 'fix' }]);
    expect(spanish.days).toBe('dmy');
  });

  it('names what it can not read by line and field, and takes none of such a row', () => {
    const bad = (row: string, head = 'found,kind,closed,hours,words') => {
      const { problems, defects } = read(`${head}\n${row}\n2024-01-02,wrinkle,,,\n`);
      expect(defects.map((d) => d.line)).toEqual([3]);
      return problems.map((p) => `${p.line} ${p.field} ${p.why}`);
    };
    expect(bad(',wrinkle,,,')).toEqual(['2 found missing']);
    expect(bad('2024-01-02,,,,')).toEqual(['2 kind missing']);
    expect(bad('2024-02-30,wrinkle,,,')).toEqual(['2 found day-unreadable']);
    expect(bad('last week,wrinkle,,,')).toEqual(['2 found day-unreadable']);
    expect(bad('2026-11-30,wrinkle,,,')).toEqual(['2 found day-to-come']);
    expect(bad('1024-01-02,wrinkle,,,')).toEqual(['2 found day-too-early']);
    expect(bad('2024-01-02,wrinkle,2024-01-01,,')).toEqual(['2 closed closed-before-found']);
    expect(bad('2024-01-02,wrinkle,,two,')).toEqual(['2 hours number-unreadable']);
    expect(bad('2024-01-02,wrinkle,,-2,')).toEqual(['2 hours number-unreadable']);
    expect(bad('2024-01-02,wrinkle,,99999,')).toEqual(['2 hours number-impossible']);
    expect(bad(`2024-01-02,wrinkle,,,${'x'.repeat(2001)}`)).toEqual(['2 words too-long']);
  });

  it('gathers words that are like no name, and takes them as somebody says they are meant', () => {
    const text = 'found,kind,crew\n2024-01-02,Overlap,Heron\n2024-01-03,overlap ,Heron\n2024-01-04,wrinkle,Wren\n';
    expect(read(text)).toMatchObject({
      defects: [],
      unknown: [
        { field: 'kind', word: 'Overlap', rows: 2 },
        { field: 'crew', word: 'Heron', rows: 2 },
        { field: 'crew', word: 'Wren', rows: 1 },
      ],
    });
    const meanings = [
      { field: 'kind', word: 'OVERLAP', id: 'short-lap' },
      { field: 'crew', word: 'Heron', id: 'crew-heron' },
      { field: 'crew', word: 'Wren', id: '' },
    ] as const;
    expect(read(text, { meanings }).defects.map((d) => [d.kind, d.crew])).toEqual([
      ['short-lap', 'crew-heron'],
      ['short-lap', 'crew-heron'],
      ['wrinkle', ''],
    ]);
    // A meaning that there is not, and "no kind", mean nothing.
    for (const id of ['no-such-kind', ''])
      expect(read(text, { meanings: [{ field: 'kind', word: 'Overlap', id }] }).unknown[0]).toMatchObject({
        word: 'Overlap',
      });
  });

  it('asks which way round days are where both would do, and reads them as somebody says', () => {
    const text = 'found,kind\n03/04/2024,wrinkle\n';
    expect(read(text)).toMatchObject({ days: 'mdy', daysSure: false, defects: [{ found: '2024-03-04' }] });
    expect(read(text, { days: 'dmy' })).toMatchObject({ daysSure: true, defects: [{ found: '2024-04-03' }] });
    expect(read('found,kind\n13/04/2024,wrinkle\n').days).toBe('dmy');
    expect(read('found,kind\n2024-04-13,wrinkle\n').daysSure).toBe(true);
  });

  it('is read by columns that somebody chose, and by none where they say so', () => {
    const text = 'a,b,c\nwrinkle,2024-01-02,secret\n';
    expect(read(text).defects).toEqual([]);
    expect(read(text, { columns: { kind: 0, found: 1, words: 2 } }).defects).toMatchObject([{ words: 'secret' }]);
    const known = 'found,kind,notes\n2024-01-02,wrinkle,secret\n';
    expect(read(known, { columns: { words: null } }).defects).toMatchObject([{ words: '' }]);
    expect(read(known, { columns: { words: 99 } }).defects).toMatchObject([{ words: '' }]);
  });

  it('tells two rows that say the same from two that do not', () => {
    const [a, b, c] = read(
      'found,kind,shower\n2024-01-02,wrinkle,2A\n1/2/2024,Wrinkle or fishmouth, 2a\n2024-01-02,wrinkle,2B\n',
    ).defects;
    expect(sameOldDefect(a!)).toBe(sameOldDefect(b!));
    expect(sameOldDefect(a!)).not.toBe(sameOldDefect(c!));
  });

  it('never throws, and each row is taken, named, or both its words are', () => {
    const cell = fc.oneof(
      fc.string(),
      fc.constantFrom('2024-01-02', '1/2/24', 'wrinkle', '', '=1+1', '1.5', '1,500', 'Crew Heron', '"', ';', '\t'),
    );
    fc.assert(
      fc.property(
        fc.array(fc.array(cell, { minLength: 1, maxLength: 5 }), { maxLength: 8 }),
        fc.boolean(),
        (rows, as) => {
          const head = ['found', 'kind', 'crew', 'hours', 'closed'];
          const text = as ? Papa.unparse([head, ...rows]) : rows.map((r) => r.join(',')).join('\n');
          const { rows: count, defects, problems, unknown } = read(text);
          const lines = new Set([...defects.map((d) => d.line), ...problems.map((p) => p.line)]);
          expect(lines.size + unknown.reduce((n, u) => n + u.rows, 0)).toBeGreaterThanOrEqual(count);
          expect(new Set(defects.map((d) => d.line)).size).toBe(defects.length);
          for (const d of defects) expect(d.found <= TODAY && d.kind !== '').toBe(true);
        },
      ),
    );
  });
});
