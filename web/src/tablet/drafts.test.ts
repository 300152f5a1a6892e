import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { openDatabase } from './database';
import { type DraftAbout, dropDraft, holdDraft, openDrafts, readDraft } from './drafts';

const Words = z.object({ words: z.string() });
const about = (more: Partial<DraftAbout> = {}): DraftAbout => ({
  kind: 'defect',
  personId: 'ada',
  showerId: 'shower-1',
  stage: 'membrane',
  element: 'floor',
  defect: null,
  ...more,
});

let name = 0;
/** A tablet's store that is opened for the first time. */
async function fresh() {
  name += 1;
  const db = await openDatabase(`drafts-${name}`);
  await openDrafts(db);
  return db;
}

describe('what is typed and not kept', () => {
  beforeEach(async () => {
    (await fresh()).close();
  });

  it('is there again when the store is opened anew, for the same form of the same person alone', async () => {
    const db = await fresh();
    holdDraft(about(), { words: 'Fold' }, 5);
    holdDraft(about({ element: 'drain' }), { words: 'Hole' });
    await db.transaction('drafts').done;
    await openDrafts(db);
    expect(readDraft(about(), Words)).toEqual({ value: { words: 'Fold' }, atMs: 5 });
    expect(readDraft(about({ element: 'drain' }), Words)?.value.words).toBe('Hole');
    for (const other of [{ personId: 'bo' }, { showerId: 'shower-2' }, { stage: 'base' }, { kind: 'redo' as const }])
      expect(readDraft(about(other), Words)).toBeNull();
    db.close();
  });

  it('is gone once it was kept, also after the store was opened anew', async () => {
    const db = await fresh();
    holdDraft(about(), { words: 'Fold' });
    dropDraft(about());
    expect(readDraft(about(), Words)).toBeNull();
    await db.transaction('drafts').done;
    await openDrafts(db);
    expect(readDraft(about(), Words)).toBeNull();
    db.close();
  });

  it('that another program left, or a curious hand, stays where it is and breaks nothing', async () => {
    const db = await fresh();
    holdDraft(about(), { pages: 7 });
    await db.put('drafts', { key: 'odd', about: 'nobody', value: 1 } as never);
    await openDrafts(db);
    expect(readDraft(about(), Words)).toBeNull();
    expect(await db.count('drafts')).toBe(2);
    db.close();
  });
});
