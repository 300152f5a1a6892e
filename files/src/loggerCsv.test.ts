import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { guessMapping, type LoggerMapping, type LoggerTable, readLevels, readLoggerTable } from './loggerCsv';

const START = Date.parse('2026-03-10T14:00:00Z');
const ZONE = 'America/Chicago';

function table(text: string): LoggerTable {
  const read = readLoggerTable(text);
  if (!read.ok) throw new Error(read.problem.code);
  return read.value;
}
function levels(text: string, change: Partial<LoggerMapping> = {}) {
  const t = table(text);
  const read = readLevels(t, { ...guessMapping(t, ZONE, START), ...change });
  if (!read.ok) throw new Error(read.problem.code);
  return read.value;
}

describe("a logger's file", () => {
  it('is read with any common separator, a decimal comma, a byte-order mark and lines above its column names', () => {
    const rows = [
      [0, 71.5, 60],
      [10, 71.4, 59.9],
      [20, 71.3, 59.9],
    ];
    const file = fc.record({
      separator: fc.constantFrom(',', ';', '\t', '|'),
      comma: fc.boolean(),
      mark: fc.boolean(),
      preamble: fc.boolean(),
      crlf: fc.boolean(),
    });
    fc.assert(
      fc.property(file, ({ separator, comma, mark, preamble, crlf }) => {
        const say = (x: number) => (comma && separator !== ',' ? String(x).replace('.', ',') : String(x));
        const lines = [
          ...(preamble ? ['Level logger', 'Serial: 42'] : []),
          ['Elapsed (min)', 'Water level (mm)', 'Control pan (mm)'].join(separator),
          ...rows.map((r) => r.map(say).join(separator)),
        ];
        const found = levels(`${mark ? '\uFEFF' : ''}${lines.join(crlf ? '\r\n' : '\n')}\n`);
        expect(found.water.map((r) => r.levelMm)).toEqual([71.5, 71.4, 71.3]);
        expect(found.pan.map((r) => r.levelMm)).toEqual([60, 59.9, 59.9]);
        expect(found.water[2]!.atMs - START).toBe(20 * 60_000);
        expect(found.everyMinutes).toBe(10);
      }),
    );
  });

  it('may have no column names, units of inches, or a gauge that looks down on the water', () => {
    expect(table('0,3.00\n60,2.99\n').columns).toEqual(['Column 1', 'Column 2']);
    const inches = levels('Elapsed (h),Depth (in)\n0,3\n1,2.5\n');
    expect(inches.water[1]).toEqual({ atMs: START + 3_600_000, levelMm: 63.5 });
    const down = levels('Elapsed (min),Distance (mm)\n0,400\n10,402\n');
    expect(down.water[1]!.levelMm - down.water[0]!.levelMm).toBe(-2);
  });

  it('reads clocks of all three orders in the zone that is asked, also when date and time stand apart', () => {
    const at = (text: string) => levels(text).water[0]!.atMs;
    const moment = Date.parse('2026-03-10T14:05:00Z');
    expect(at('Time,Level\n2026-03-10 09:05:00,71\n2026-03-10 09:15:00,71\n')).toBe(moment);
    expect(at('Date Time,Level\n03/10/2026 9:05:00 AM,71\n03/13/2026 9:15:00 PM,71\n')).toBe(moment);
    expect(at('Zeit;Pegel\n10.03.2026 09:05;71,0\n10.03.2026 09:15;71,1\n')).toBe(moment);
    expect(at('Date,Time,Level\n2026-03-10,09:05,71\n2026-03-10,09:15,71\n')).toBe(moment);
    expect(at('Time,Level\n2026-03-10T14:05:00Z,71\n2026-03-10T14:15:00Z,71\n')).toBe(moment);
  });

  it('counts 24 h across a clock change as the hours they were', () => {
    const spring = levels('Time,Level\n2026-03-07 12:00,71\n2026-03-08 12:00,71\n');
    expect(spring.water[1]!.atMs - spring.water[0]!.atMs).toBe(23 * 3_600_000);
    const autumn = levels(
      'Time,Level\n2026-11-01 00:30,71\n2026-11-01 01:30,71\n2026-11-01 01:00,71\n2026-11-01 01:30,71\n2026-11-01 02:30,71\n',
    );
    expect(autumn.problems).toEqual([]);
    expect(autumn.water.map((r) => (r.atMs - autumn.water[0]!.atMs) / 3_600_000)).toEqual([0, 1, 1.5, 2, 3]);
  });

  it('leaves out and lists what it can not read: never guessed, never averaged', () => {
    const found = levels('Elapsed (min),Level\n0,71\n10,---\n20,71\n20,70\n15,70\nnoon,70\n30,69\n300,68\n');
    expect(found.water).toHaveLength(4);
    expect(found.problems.map((p) => p.kind)).toEqual([
      'level-unreadable',
      'time-doubled',
      'time-backwards',
      'time-unreadable',
    ]);
    expect(found.longestGapHours).toBe(4.5);
  });

  it('is refused with a way out when it is no table', () => {
    for (const text of ['', 'hello', 'a\nb\nc\n', `x${String.fromCharCode(0)}y,1\n2,3\n`]) {
      const read = readLoggerTable(text);
      expect(!read.ok && read.problem.field).toBe('file');
    }
    const words = table('Elapsed,Level\nsoon,low\nlater,lower\n');
    const read = readLevels(words, guessMapping(words, ZONE, START));
    expect(!read.ok && read.problem.field).toBe('mapping');
  });
});
