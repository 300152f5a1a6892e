import { describe, expect, it } from 'vitest';
import { defaultRuleBook } from './defaultRuleBook';
import { textsOf, translateBook } from './translateBook';

const book = defaultRuleBook();

describe('the rule book in Spanish', () => {
  it('is complete: no text of it is missing, and none stands there for nothing', () => {
    const texts = textsOf(book);
    const es = book.texts.es ?? {};
    expect(texts.filter((text) => !es[text])).toEqual([]);
    expect(Object.keys(es).filter((text) => !texts.includes(text))).toEqual([]);
  });
  it('says the same checks with the same limits, ids and sources', () => {
    const spanish = translateBook(book, 'es');
    const bare = (b: typeof book) =>
      JSON.stringify({ ...b, texts: {} }, (key, value: unknown) =>
        ['label', 'why', 'caution', 'title', 'deference', 'packLabel', 'question', 'note', 'text'].includes(key)
          ? undefined
          : value,
      );
    expect(bare(spanish)).toBe(bare(book));
    expect(spanish.methods[0]!.stages.find((s) => s.key === 'membrane')!.label).toBe('Membrana');
    expect(spanish.defectKinds.find((k) => k.id === 'short-lap')!.label).toBe('Traslape corto');
    // What the trade disagrees on is asked in Spanish too, with the same letters and the same effects.
    const question = spanish.disagreements.find((d) => d.id === 'A46')!;
    expect([question.question, ...question.positions.map((p) => `${p.key} ${p.text} ${p.effect}`)]).toEqual([
      'Arriba de la banca',
      'a Cae hacia el frente accept',
      'b Plana, sin caída dicha defect',
    ]);
  });
  it('stays English where the firm has not translated its own text, and in a language it has not', () => {
    const own = structuredClone(book);
    own.defectKinds[0]!.label = 'Lap of our own';
    expect(translateBook(own, 'es').defectKinds[0]!.label).toBe('Lap of our own');
    expect(translateBook(book, 'fr')).toBe(book);
  });
});
