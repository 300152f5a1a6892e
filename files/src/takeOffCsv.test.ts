import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import { writeTakeOffCsv } from './takeOffCsv';

describe('a list to buy as a file', () => {
  const row = {
    item: 'Band, 5 in',
    needed: '12 ft',
    withWaste: '13 ft',
    packs: 1,
    pack: 'roll of 33 ft',
    pieces: [
      { mm: 1625.6, goesOn: 'Foot of wall A' },
      { mm: 990.4, goesOn: 'Corner of walls A and B' },
    ],
  };
  it('names each piece with where it goes, and reads back', () => {
    const { data } = Papa.parse<Record<string, string>>(writeTakeOffCsv([row]), { header: true, skipEmptyLines: true });
    expect(data).toEqual([
      {
        item: 'Band, 5 in',
        needed: '12 ft',
        with_waste: '13 ft',
        packs: '1',
        pack: 'roll of 33 ft',
        pieces_mm: '1626 Foot of wall A; 990 Corner of walls A and B',
      },
    ]);
  });
  it('makes a cell harmless that begins like a formula', () => {
    const evil = { ...row, item: '=1+1' };
    expect(writeTakeOffCsv([evil])).toContain("'=1+1");
  });
});
