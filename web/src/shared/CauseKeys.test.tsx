import { defaultRuleBook } from '@careful-seam/core/rules/defaultRuleBook';
import { screen } from '@testing-library/react';
import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import { onScreen } from '../tests/onScreen';
import { CauseKeys } from './CauseKeys';

const BOOK = defaultRuleBook();

/** The keys with what was chosen by them. */
function Chosen({ kind, first = '' }: { kind: string; first?: string }) {
  const [family, setFamily] = useState(first);
  return (
    <>
      <CauseKeys book={BOOK} kind={kind} label="Why?" value={family} onChoose={setFamily} />
      <output>{family || 'nothing'}</output>
    </>
  );
}
const keys = () => screen.getAllByRole('radio').map((k) => k.textContent);
const chosen = () => screen.getByRole('status').textContent;

describe('why a defect happened', () => {
  it('has the usual causes of its kind one tap away, "not known yet" before them', async () => {
    const { person } = onScreen(<Chosen kind="cure-cut-short" />);
    expect(keys()).toEqual(['Not known yet', 'Cure or weather', 'Sequence', 'Communication', 'Another cause']);
    expect(screen.getByRole('radio', { checked: true }).textContent).toBe('Not known yet');
    await person.click(screen.getByRole('radio', { name: 'Sequence' }));
    expect(chosen()).toBe('sequence');
    await person.click(screen.getByRole('radio', { name: 'Not known yet' }));
    expect(chosen()).toBe('nothing');
  });
  it('has all the others behind one key, and shows what was chosen there as a key', async () => {
    const { person } = onScreen(<Chosen kind="cure-cut-short" />);
    await person.click(screen.getByRole('radio', { name: 'Another cause' }));
    await person.selectOptions(screen.getByRole('combobox'), 'tool');
    expect(chosen()).toBe('tool');
    expect(screen.getByRole('radio', { checked: true }).textContent).toBe('Tool');
    expect(screen.queryByRole('combobox')).toBeNull();
  });
  it('keeps a cause that the firm offers no more where it was said, and offers it nowhere else', () => {
    const book = { ...BOOK, causes: BOOK.causes.map((c) => (c.id === 'sequence' ? { ...c, retired: true } : c)) };
    const { unmount } = onScreen(
      <CauseKeys book={book} kind="cure-cut-short" label="Why?" value="sequence" onChoose={() => undefined} />,
    );
    expect(keys()).toContain('Sequence');
    unmount();
    onScreen(<CauseKeys book={book} kind="cure-cut-short" label="Why?" value="" onChoose={() => undefined} />);
    expect(keys()).not.toContain('Sequence');
  });
});
