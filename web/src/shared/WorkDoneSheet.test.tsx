import { begun, fold } from '@careful-seam/core/tests/sampleTablet';
import { fireEvent, screen } from '@testing-library/react';
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
    expect(screen.getByText('Say who worked on it.')).toBeTruthy();
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
  it('is told with the hour when it was finished, in the job’s own zone, and no hour that has not come', async () => {
    const { person } = sheet();
    const when = () => screen.getByLabelText('When it was finished');
    fireEvent.change(when(), { target: { value: '2099-01-02T07:30' } });
    await person.click(keep());
    expect(screen.getByRole('alert').textContent).toMatch(/has not come yet/);
    expect(writeAll).not.toHaveBeenCalled();
    fireEvent.change(when(), { target: { value: '2023-11-14T07:30' } });
    await person.click(keep());
    const [, [work]] = writeAll.mock.calls[0] as unknown as [string, { body: object }[]];
    expect(work!.body).toMatchObject({ day: '2023-11-14', doneAt: '2023-11-14T07:30:00.000Z' });
  });
  it('is told by the inspector in the crew’s name, without a call for his own look', async () => {
    useStore.setState({
      person: { id: 'i', name: 'Ines', role: 'inspector', crewId: null },
      crews: [{ id: 'crew', name: 'Crew Heron' }] as never,
    });
    const { person } = sheet();
    expect((screen.getByLabelText(/who/i) as HTMLInputElement).value).toBe('Crew Heron');
    await person.click(keep());
    const [, entries] = writeAll.mock.calls[0] as unknown as [string, { kind: string; body: object }[]];
    expect(entries.map((e) => e.kind)).toEqual(['work-done']);
    expect(entries[0]!.body).toMatchObject({ crewId: 'crew', who: 'Crew Heron' });
  });
});
