import { act, screen } from '@testing-library/react';
import { useState } from 'react';
import { describe, expect, it, vi } from 'vitest';
import { onScreen } from '../tests/onScreen';
import { openedLater } from './openedLater';

const Words = ({ onClose }: { onClose: () => void }) => (
  <button type="button" onClick={onClose}>
    What the sheet says
  </button>
);

describe('a sheet whose code comes when it is opened', () => {
  it('that can not be had says so, leaves the screen as it is, and is asked for anew when it is opened again', async () => {
    vi.spyOn(console, 'error').mockImplementation(() => undefined);
    let network = false;
    const load = vi.fn(async () => {
      if (!network) throw new Error('no network');
      return Words;
    });
    const Sheet = openedLater(load);
    function Screen() {
      const [open, setOpen] = useState(false);
      return (
        <>
          <button type="button" onClick={() => setOpen(true)}>
            Open it
          </button>
          {open && <Sheet onClose={() => setOpen(false)} />}
        </>
      );
    }
    const { person } = onScreen(<Screen />);
    // React waits for code within an act alone.
    const open = () => act(() => person.click(screen.getByText('Open it')));
    await open();
    expect((await screen.findByRole('alert')).textContent).toContain('Nothing you entered is lost');
    await person.click(screen.getByRole('button', { name: 'Close' }));
    expect(screen.queryByRole('alert')).toBeNull();
    network = true;
    await open();
    await person.click(await screen.findByText('What the sheet says'));
    expect(screen.queryByText('What the sheet says')).toBeNull();
    // Once it is here it is not fetched again.
    await open();
    await screen.findByText('What the sheet says');
    expect(load).toHaveBeenCalledTimes(2);
    vi.restoreAllMocks();
  });
});
