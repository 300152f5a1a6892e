import { screen, waitFor } from '@testing-library/react';
import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import { onScreen } from '../tests/onScreen';
import { Choice } from './Choice';

const HOURS = [24, 72, 168] as const;

function Hours({ chosen }: { chosen: (hours: number) => void }) {
  const [value, setValue] = useState<number>(24);
  return (
    <Choice
      label="It ends after"
      value={value}
      options={HOURS.map((key) => ({ key, label: `${key} h`, disabled: key === 168 }))}
      onChoose={(key) => {
        chosen(key);
        setValue(key);
      }}
    />
  );
}

describe('one of a few', () => {
  it('is told as a figure where it was one, and shows what is chosen', async () => {
    const told: unknown[] = [];
    const { person } = onScreen(<Hours chosen={(hours) => told.push(hours)} />);
    expect(screen.getByRole('radiogroup', { name: 'It ends after' })).toBeTruthy();
    await person.click(screen.getByRole('radio', { name: '72 h' }));
    expect(told).toEqual([72]);
    expect(screen.getByRole('radio', { name: '72 h' }).getAttribute('aria-checked')).toBe('true');
    expect(screen.getByRole('radio', { name: '24 h' }).getAttribute('aria-checked')).toBe('false');
  });
  it('is one stop for Tab and goes on with the arrows, past what can not be chosen', async () => {
    const told: unknown[] = [];
    const { person } = onScreen(<Hours chosen={(hours) => told.push(hours)} />);
    await person.tab();
    // The group hands its focus on to what is chosen in it.
    await waitFor(() => expect(document.activeElement?.textContent).toBe('24 h'));
    await person.keyboard('{ArrowRight}');
    expect(document.activeElement?.textContent).toBe('72 h');
    await person.keyboard('{ArrowRight}');
    expect(document.activeElement?.textContent).toBe('24 h');
    await person.tab();
    expect(document.activeElement).toBe(document.body);
    expect(told).not.toContain(168);
  });
});
