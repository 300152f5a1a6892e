import { screen } from '@testing-library/react';
import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import { onScreen } from '../tests/onScreen';
import { FractionPad, readPad } from './FractionPad';

function Pad({ unit, aboutMm = 50, last = [] }: { unit: 'in' | 'mm'; aboutMm?: number; last?: number[] }) {
  const [text, setText] = useState('');
  return (
    <FractionPad unit={unit} aboutMm={aboutMm} text={text} onText={setText} last={last}>
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
  it('takes a last value with one tap, four of them at most', async () => {
    const { person } = onScreen(<Pad unit="in" last={[50.8, 57.15, 63.5, 69.85, 76.2]} />);
    expect(screen.queryByRole('button', { name: '3' })).toBeTruthy();
    await person.click(key('2 1/4'));
    expect(typed()).toBe('2 1/4');
    expect(screen.queryByRole('button', { name: '2 3/4' })).toBeTruthy();
  });
  it('reads half of a figure as nothing yet', () => {
    expect([readPad('2 1/4', 'in'), readPad('2 1/', 'in'), readPad('', 'mm')]).toEqual([57.15, null, null]);
  });
});
