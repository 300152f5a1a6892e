import { begun, fold } from '@careful-seam/core/tests/sampleTablet';
import { screen } from '@testing-library/react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { useStore } from '../tablet/store';
import { onScreen } from '../tests/onScreen';
import { WorkDoneSheet } from './WorkDoneSheet';

const state = fold(begun().entries);
const writeAll = vi.fn(async () => []);
const closed = vi.fn();
beforeEach(() => {
  vi.clearAllMocks();
  useStore.setState({
    person: { id: 'p', name: 'Pavel Drozd', role: 'crew-lead', crewId: 'heron' },
    writeAll: writeAll as never,
  });
});
const sheet = () => onScreen(<WorkDoneSheet showerId="s" state={state} stage="membrane" onClose={closed} />);
const keep = () => screen.getByRole('button', { name: /Membrane/ });

describe('work that is told', () => {
  it('is written with who, the day, and a call for a look; what was left empty is left out', async () => {
    const { person } = sheet();
    await person.type(screen.getByLabelText(/batch/i), ' L 2207 ');
    await person.click(keep());
    const [id, entries] = writeAll.mock.calls[0] as unknown as [string, { kind: string; body: object }[]];
    expect(id).toBe('s');
    expect(entries.map((e) => e.kind)).toEqual(['work-done', 'look-requested']);
    expect(entries[0]!.body).toMatchObject({ stage: 'membrane', crewId: 'heron', who: 'Pavel Drozd', batch: 'L 2207' });
    expect(entries[0]!.body).not.toHaveProperty('productLine');
    expect(closed).toHaveBeenCalledOnce();
  });
  it('without somebody who did it is not written; it says what is needed, and nothing typed is lost', async () => {
    const { person } = sheet();
    await person.clear(screen.getByLabelText(/who/i));
    await person.type(screen.getByLabelText(/batch/i), '77');
    await person.click(keep());
    expect(writeAll).not.toHaveBeenCalled();
    expect(screen.getByText('Say who worked on it and on which day.')).toBeTruthy();
    expect((screen.getByLabelText(/batch/i) as HTMLInputElement).value).toBe('77');
    await person.type(screen.getByLabelText(/who/i), 'Crew Heron');
    await person.click(keep());
    expect(writeAll).toHaveBeenCalledOnce();
  });
  it('begins with who and with what was told the last time', () => {
    const t = begun();
    t.write('work-done', { stage: 'base', crewId: 'heron', who: 'Oda', day: '2026-11-20', productLine: 'Line 7' });
    onScreen(<WorkDoneSheet showerId="s" state={fold(t.entries)} stage="membrane" onClose={closed} />);
    expect((screen.getByLabelText(/who/i) as HTMLInputElement).value).toBe('Oda');
    expect((screen.getByLabelText(/product/i) as HTMLInputElement).value).toBe('Line 7');
  });
});
