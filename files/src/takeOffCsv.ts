import Papa from 'papaparse';

export interface TakeOffRow {
  item: string;
  needed: string;
  withWaste: string;
  packs: number;
  pack: string;
  /** What is cut from rolls, mm, and where it goes. */
  pieces: readonly { mm: number; goesOn: string }[];
}

/** A list to buy as a file for a spreadsheet: one line for each item, pieces in mm with where they go. Cells that begin like a formula are made harmless. */
export function writeTakeOffCsv(rows: readonly TakeOffRow[]): string {
  return `${Papa.unparse(
    rows.map((r) => ({
      item: r.item,
      needed: r.needed,
      with_waste: r.withWaste,
      packs: r.packs,
      pack: r.pack,
      pieces_mm: r.pieces.map(({ mm, goesOn }) => `${Math.round(mm)} ${goesOn}`).join('; '),
    })),
    { escapeFormulae: true },
  )}\r\n`;
}
