import { describe, expect, it } from 'vitest';
import { showerFilms } from '../../checks/film';
import { defaultRuleBook } from '../../rules/defaultRuleBook';
import type { RuleBook } from '../../rules/ruleBook';
import { sampleShower } from '../../tests/sampleShower';
import { placeOf, type Tablet, tablet } from '../../tests/sampleTablet';
import { foldShower } from '../fold/foldShower';
import { showerTakeOff, usedOf } from './takeOffOfShower';

const BOOK: RuleBook = {
  ...defaultRuleBook(),
  productLines: [
    {
      id: 'film',
      name: 'Film',
      maker: 'One',
      kind: 'membrane',
      methods: ['liquid'],
      figures: { dryUm: { least: 560 }, solidsPercent: { least: 50 }, coats: { least: 2 } },
      readFrom: 'label',
      goesWith: [],
      ownPartsOnly: false,
    },
  ],
};
const fold = (t: Tablet) => foldShower(t.entries, () => BOOK);
function begun(rules: { method: string; parts?: Record<string, string>; lines?: string[] }): Tablet {
  const t = tablet(7);
  t.write('shower-created', { name: 'Loft', job: 'Mill', crewId: 'crew-1', timeZone: 'UTC' });
  t.write('geometry-set', { version: 1, geometry: sampleShower({ niche: true }) });
  t.write('rules-pinned', { ruleBook: BOOK.id, version: BOOK.version, beginsAt: 'membrane', ...rules });
  return t;
}
const ids = (t: Tablet) => showerTakeOff(fold(t)).map((l) => l.id);

describe('what a shower uses', () => {
  it('is told by its method, and a membrane only where its label is known', () => {
    expect(ids(begun({ method: 'bonded-sheet' }))).toEqual(expect.arrayContaining(['band', 'corners-inside', 'seals']));
    expect(ids(begun({ method: 'liquid' }))).not.toContain('membrane');
    const lines = showerTakeOff(fold(begun({ method: 'liquid', lines: ['film'] })));
    const film = lines.find((l) => l.id === 'membrane')!;
    const areas = showerFilms(fold(begun({ method: 'liquid' })))[0]!.judged.zones;
    const m2 = areas.filter((z) => z.zone !== 'corners').reduce((sum, z) => sum + z.areaM2, 0);
    expect(film.net).toBeCloseTo((m2 * 560) / 1000 / 0.5 / 0.95, 6);
  });
  it('of two methods each takes its own parts: the coat is on the walls alone, the pan’s mortar under the floor', () => {
    const mixed = begun({ method: 'liquid', parts: { floor: 'ready-pan', curb: 'ready-pan' }, lines: ['film'] });
    expect(showerFilms(fold(mixed))[0]!.judged.zones.map((z) => z.zone)).toEqual([
      'lower-walls',
      'walls',
      'niche',
      'corners',
    ]);
    const whole = showerTakeOff(fold(begun({ method: 'liquid', lines: ['film'] })));
    const lines = showerTakeOff(fold(mixed));
    const litres = (list: typeof lines) => list.find((l) => l.id === 'membrane')!.net;
    expect(litres(lines)).toBeLessThan(litres(whole));
    expect(lines.map((l) => l.id)).toContain('silicone');
  });
  it('against what was used: the last word counts, one taken back does not', () => {
    const t = begun({ method: 'bonded-sheet' });
    const say = (used: Record<string, number>) =>
      t.write('look', {
        stage: 'membrane',
        checks: ['materials-used'],
        places: [placeOf(fold(t), 'shower')],
        answer: 'ok',
        used,
      });
    expect(usedOf(fold(t))).toBeNull();
    say({ band: 3000 });
    const second = say({ band: 9000, seals: 1 });
    expect(usedOf(fold(t))).toEqual({ band: 9000, seals: 1 });
    t.write('correction', { target: second, action: 'withdraw' });
    expect(usedOf(fold(t))).toEqual({ band: 3000 });
  });
});
