import { describe, expect, it } from 'vitest';
import { nearest, neighbour, type Spot } from './spots';

const spots: Spot[] = [
  {
    element: 'left',
    kind: 'line',
    points: [
      [0, 0],
      [0, 100],
    ],
  },
  {
    element: 'foot',
    kind: 'line',
    points: [
      [0, 100],
      [100, 100],
    ],
  },
  {
    element: 'right',
    kind: 'line',
    points: [
      [100, 0],
      [100, 100],
    ],
  },
  { element: 'corner', kind: 'point', points: [[0, 100]] },
  {
    element: 'wall',
    kind: 'area',
    points: [
      [0, 0],
      [100, 0],
      [100, 100],
      [0, 100],
    ],
  },
];

describe('a tap', () => {
  it('means the nearest seam within reach', () => {
    expect(nearest(spots, [50, 88], 26)!.element).toBe('foot');
    expect(nearest(spots, [92, 40], 26)!.element).toBe('right');
  });
  it('prefers a corner to the seams that pass it', () => {
    expect(nearest(spots, [7, 98], 26)!.element).toBe('corner');
  });
  it('means the face where no seam is near, and nothing outside', () => {
    expect(nearest(spots, [50, 40], 26)!.element).toBe('wall');
    expect(nearest(spots, [300, 300], 26)).toBeNull();
  });
});

describe('an arrow', () => {
  it('goes to the next seam in its direction', () => {
    expect(neighbour(spots, 'left', 'ArrowRight')!.element).toBe('right');
    expect(neighbour(spots, 'left', 'ArrowDown')!.element).toBe('corner');
    expect(neighbour(spots, 'right', 'ArrowRight')).toBeNull();
  });
  it('begins somewhere when nothing is chosen', () => {
    expect(neighbour(spots, null, 'ArrowUp')!.kind).toBe('line');
  });
});
