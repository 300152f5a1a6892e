import { CORNER_DETAILS, DRAIN_DETAILS, PENETRATION_DETAILS } from '@careful-seam/core/rules/ruleBook';
import { sampleModel } from '@careful-seam/core/tests/sampleShower';
import { describe, expect, it } from 'vitest';
import en from '../texts/en.json';
import { CORNER_WRONGS, cornerAxes, cornerMarks, cornerView, USUAL_AXES } from './corner';
import { DRAIN_WRONGS, drainMarks, PENETRATION_WRONGS, penetrationMarks } from './section';

const drawn = (marks: readonly { path: string; className: string }[]) => JSON.stringify(marks);

describe('drawings of right and wrong', () => {
  const view = cornerView(USUAL_AXES, 200);
  it.each([
    ['corner', CORNER_DETAILS, CORNER_WRONGS, (k: never, w: string | null) => cornerMarks(view, k, w)],
    [
      'penetration',
      PENETRATION_DETAILS,
      PENETRATION_WRONGS,
      (k: never, w: string | null) => penetrationMarks(k, w, 0.5),
    ],
    ['drain', DRAIN_DETAILS, DRAIN_WRONGS, (k: never, w: string | null) => drainMarks(k, w)],
  ] as const)(
    '%s: each kind has its own, each wrong differs from right, and all have words',
    (what, kinds, wrongs, draw) => {
      const rights = kinds.map((k) => drawn(draw(k as never, null)));
      for (const kind of kinds) {
        const texts = (en.detail[what] as never)[kind] as Record<string, string>;
        expect(texts.right).toBeTruthy();
        const right = drawn(draw(kind as never, null));
        expect(right).not.toMatch(/NaN|undefined/);
        for (const wrong of (wrongs as Record<string, readonly string[]>)[kind]!) {
          expect(texts[wrong], `${what} ${kind} ${wrong}`).toBeTruthy();
          const marks = draw(kind as never, wrong);
          expect(drawn(marks), `${what} ${kind} ${wrong}`).not.toBe(right);
          expect(drawn(marks)).toContain('hold');
        }
      }
      expect(new Set(rights).size).toBeGreaterThan(1);
    },
  );
  it('take the angles of the shower: three lines meet at a corner of its floor', () => {
    const model = sampleModel();
    const corner = model.corners.find(
      (c) => c.faces.includes('floor') && c.faces.filter((f) => f.startsWith('wall')).length === 2,
    )!;
    const axes = cornerAxes(model, corner.id)!;
    expect(axes).toHaveLength(3);
    expect(Math.abs(axes[2][2])).toBeCloseTo(1, 6);
    expect(cornerAxes(model, 'nothing')).toBeNull();
  });
});
