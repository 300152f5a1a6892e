import Papa from 'papaparse';

export interface TakeOffRow {
  item: string;
  needed: string;
  withWaste: string;
  packs: number;
  pack: string;
  piecesMm: readonly number[];
}

/** A list to buy as a file for a spreadsheet: one line for each item, pieces in mm. Cells that begin like a formula are made harmless. */
export function writeTakeOffCsv(rows: readonly TakeOffRow[]): string {
  return `${Papa.unparse(
    rows.map((r) => ({
      item: r.item,
      needed: r.needed,
      with_waste: r.withWaste,
      packs: r.packs,
      pack: r.pack,
      pieces_mm: r.piecesMm.map((mm) => Math.round(mm)).join(' '),
    })),
    { escapeFormulae: true },
  )}\n`;
}
