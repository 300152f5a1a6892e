import { screen, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { onScreen } from '../tests/onScreen';
import { type Column, DataTable, type Order } from './DataTable';

interface Line {
  id: string;
  name: string;
  uses: number;
}
const LINES: Line[] = [
  { id: 'a', name: 'Heron', uses: 9 },
  { id: 'b', name: 'Wren', uses: 100 },
  { id: 'c', name: 'Crane', uses: 20 },
];
const COLUMNS: Column<Line>[] = [
  { key: 'name', label: 'Name', by: (l) => l.name, cell: (l) => l.name },
  { key: 'uses', label: 'Used', by: (l) => l.uses, cell: (l) => `${l.uses} times` },
  { key: 'end', label: 'End', cell: (l) => <button type="button">End {l.name}</button> },
];
const first = () =>
  screen
    .getAllByRole('row')
    .slice(1)
    .map((row) => within(row).getAllByRole('cell')[0]!.textContent);

describe('a table of the office', () => {
  it('comes as it was given, and is put in order, turned round and given back by its heading', async () => {
    const { person } = onScreen(<DataTable label="Links" rows={LINES} columns={COLUMNS} rowId={(l) => l.id} />);
    expect(first()).toEqual(['Heron', 'Wren', 'Crane']);
    const heading = () => screen.getByRole('columnheader', { name: /Name/ });
    await person.click(within(heading()).getByRole('button'));
    expect([first(), heading().getAttribute('aria-sort')]).toEqual([['Crane', 'Heron', 'Wren'], 'ascending']);
    await person.click(within(heading()).getByRole('button'));
    expect([first(), heading().getAttribute('aria-sort')]).toEqual([['Wren', 'Heron', 'Crane'], 'descending']);
    await person.click(within(heading()).getByRole('button'));
    expect([first(), heading().getAttribute('aria-sort')]).toEqual([['Heron', 'Wren', 'Crane'], null]);
  });
  it('puts figures in order by what they are worth', async () => {
    const { person } = onScreen(<DataTable label="Links" rows={LINES} columns={COLUMNS} rowId={(l) => l.id} />);
    await person.click(screen.getByRole('button', { name: 'Used' }));
    expect(first()).toEqual(['Heron', 'Crane', 'Wren']);
  });
  it('has no order by a column of keys, and says what it says when it is empty', () => {
    const { rerender } = onScreen(<DataTable label="Links" rows={LINES} columns={COLUMNS} rowId={(l) => l.id} />);
    expect(screen.queryByRole('button', { name: 'End' })).toBeNull();
    expect(screen.getByRole('button', { name: 'End Wren' })).toBeTruthy();
    rerender(<DataTable label="Links" rows={[]} columns={COLUMNS} rowId={(l) => l.id} empty="No link yet." />);
    expect(screen.getByText('No link yet.')).toBeTruthy();
  });
  it('whose rows somebody else puts in order asks for that order, and leaves them as they came', async () => {
    const asked: Order[] = [];
    const { person } = onScreen(
      <DataTable
        label="Defects"
        rows={LINES}
        columns={COLUMNS}
        rowId={(l) => l.id}
        order={{ by: 'name', down: true }}
        onOrder={(order) => asked.push(order)}
      />,
    );
    expect(first()).toEqual(['Heron', 'Wren', 'Crane']);
    expect(screen.getByRole('columnheader', { name: /Name/ }).getAttribute('aria-sort')).toBe('descending');
    await person.click(screen.getByRole('button', { name: /Name/ }));
    await person.click(screen.getByRole('button', { name: /Used/ }));
    expect(asked).toEqual([
      { by: 'name', down: false },
      { by: 'uses', down: false },
    ]);
    expect(first()).toEqual(['Heron', 'Wren', 'Crane']);
  });
  it('stands under the heading of what rows that follow each other belong to', () => {
    onScreen(
      <DataTable
        label="Defects"
        rows={LINES}
        columns={COLUMNS}
        rowId={(l) => l.id}
        groupOf={(l) => (l.uses > 10 ? 'many' : 'few')}
      />,
    );
    expect(
      screen
        .getAllByRole('row')
        .slice(1)
        .map((row) => row.textContent?.slice(0, 4)),
    ).toEqual(['few', 'Hero', 'many', 'Wren', 'Cran']);
  });
});
