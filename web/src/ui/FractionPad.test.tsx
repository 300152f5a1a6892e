import { screen } from '@testing-library/react';
import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import { onScreen } from '../tests/onScreen';
import { FractionPad, readPad } from './FractionPad';

function Pad({ unit, aboutMm = 50, stepMm }: { unit: 'in' | 'mm'; aboutMm?: number; stepMm?: number }) {
  const [text, setText] = useState('');
  return (
    <FractionPad unit={unit} aboutMm={aboutMm} text={text} onText={setText} {...(stepMm ? { stepMm } : {})}>
      <output>{text === '' ? 'nothing' : text}</output>
    </FractionPad>
  );
}
const typed = () => screen.getByRole('status').textContent;
const key = (name: string) => screen.getByRole('button', { name });

describe('the pad of a length', () => {
  it('in inches puts a whole and an eighth together in any order', async () => {
    const { person } = onScreen(<Pad unit="in" />);
    expect(typed()).toBe('nothing');
    await person.click(key('3/8'));
    await person.click(key('2'));
    expect(typed()).toBe('2 3/8');
    await person.click(key('1/2'));
    expect(typed()).toBe('2 1/2');
    expect(key('2').getAttribute('aria-pressed')).toBe('true');
  });
  it('steps by a sixteenth, and never below nothing', async () => {
    const { person } = onScreen(<Pad unit="in" />);
    await person.click(screen.getByRole('button', { name: /sixteenth less/i }));
    expect(typed()).toBe('0');
    await person.click(key('2'));
    await person.click(screen.getByRole('button', { name: /sixteenth more/i }));
    expect(typed()).toBe('2 1/16');
  });
  it('in millimetres puts tens and single ones together', async () => {
    const { person } = onScreen(<Pad unit="mm" />);
    await person.click(key('50'));
    await person.click(key('7'));
    expect(typed()).toBe('57');
  });
  it('of a height has the heights of a wall as its keys', () => {
    onScreen(<Pad unit="in" aboutMm={1800} />);
    expect(key('72')).toBeTruthy();
    expect(screen.queryByRole('button', { name: '6' })).toBeNull();
  });
  it('steps as finely as the gauge: by 1/32 where it is read so', async () => {
    const { person } = onScreen(<Pad unit="in" stepMm={25.4 / 32} />);
    await person.click(screen.getByRole('button', { name: /thirty-second more/i }));
    expect(typed()).toBe('1/32');
    await person.click(key('1/8'));
    await person.click(screen.getByRole('button', { name: /thirty-second less/i }));
    expect(typed()).toBe('3/32');
  });
  it('reads half of a figure as nothing yet', () => {
    expect([readPad('2 1/4', 'in'), readPad('2 1/', 'in'), readPad('', 'mm')]).toEqual([57.15, null, null]);
  });
});
