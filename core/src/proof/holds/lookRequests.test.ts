import { describe, expect, it } from 'vitest';
import { begun, climb, fold, pass, releaseBody } from '../../tests/sampleTablet';
import { openLookRequests } from './lookRequests';

describe('a request for a look', () => {
  it('stands until somebody looked or the stage was released, and the last one of a stage counts', () => {
    const t = begun();
    const open = () => openLookRequests(fold(t.entries)).map((r) => r.body.words);
    t.write('look-requested', { stage: 'base', words: 'first' });
    t.write('look-requested', { stage: 'base', words: 'second' });
    t.write('look-requested', { stage: 'boards', words: 'boards too' });
    expect(open()).toEqual(['second', 'boards too']);
    pass(t, 'base');
    expect(open()).toEqual(['boards too']);
    t.write('look-requested', { stage: 'base', words: 'again' });
    expect(open()).toEqual(['again', 'boards too']);
    t.write('stage-released', releaseBody('base'));
    expect(open()).toEqual(['boards too']);
  });

  it('of a climb that was released throughout is none', () => {
    const t = begun();
    climb(t, 'membrane');
    expect(openLookRequests(fold(t.entries))).toEqual([]);
  });
});
