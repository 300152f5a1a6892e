import { screen, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { onScreen } from '../../tests/onScreen';
import { Gallery } from './Gallery';
import { makeSamples } from './samples';

describe('the gallery', () => {
  it('has a shower in each state that a stage can have, and each of its lines', () => {
    const samples = makeSamples();
    const words = samples.map(({ shower, stage }) => shower.state.stages.get(stage)!.word);
    expect(new Set(words)).toEqual(new Set(['open', 'released', 'held']));
    expect(samples.some(({ shower }) => shower.state.flood?.running)).toBe(true);
    expect(samples.some(({ shower }) => shower.state.covered.size > 0)).toBe(true);
    expect(samples.some(({ shower }) => shower.state.defects.size > 0)).toBe(true);
  });
  it('shows all of them with their map, their card and their keys', () => {
    onScreen(<Gallery />);
    for (const { name } of makeSamples()) {
      const piece = within(screen.getByRole('region', { name }));
      expect(piece.getAllByRole('heading', { level: 2 }).length).toBe(2);
    }
    expect(screen.getByRole('region', { name: 'pad, a lap in inches' })).toBeTruthy();
    expect(screen.getByText('This is longer than the shower is wide.')).toBeTruthy();
  });
});
