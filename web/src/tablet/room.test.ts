import 'fake-indexeddb/auto';
import { openDB } from 'idb';
import { v4 } from 'uuid';
import { describe, expect, it } from 'vitest';
import { openDatabase } from './database';
import { showersWaiting } from './outbox';
import { askForRoom, makeRoom, withRoom } from './room';
import { isHeic } from './takePicture';

const picture = (hash: string, sent: boolean, takenMs: number) => ({
  hash,
  blob: new Blob(['x']),
  widthPx: 1,
  heightPx: 1,
  sent,
  takenMs,
});
const full = () => Object.assign(new Error('The quota has been exceeded.'), { name: 'QuotaExceededError' });

describe('a tablet that is full', () => {
  it('removes copies first, then the oldest pictures that the server confirmed, never one that waits', async () => {
    const db = await openDatabase(v4());
    await db.put('small', { hash: 's', blob: new Blob(['x']), orderAt: '' });
    for (const p of [picture('new', true, 3), picture('old', true, 1), picture('waits', false, 0)])
      await db.put('photos', p);
    expect([await makeRoom(db, 1), await db.count('small'), await db.count('photos')]).toEqual([1, 0, 3]);
    expect(await makeRoom(db, 1)).toBe(1);
    expect(await db.getAllKeys('photos')).toEqual(['new', 'waits']);
    expect([await makeRoom(db, 5), await makeRoom(db, 5)]).toEqual([1, 0]);
    expect(await db.getAllKeys('photos')).toEqual(['waits']);
  });
  it('tries a write again after making room, and says so when there is nothing to remove', async () => {
    const db = await openDatabase(v4());
    await db.put('photos', picture('sent', true, 1));
    let tries = 0;
    expect(await withRoom(db, async () => (++tries < 2 ? Promise.reject(full()) : 'kept'))).toBe('kept');
    const problem = await withRoom(db, () => Promise.reject(full())).catch((e: unknown) => e);
    expect(problem).toMatchObject({ code: 'tablet-full', field: 'storage' });
    await expect(withRoom(db, () => Promise.reject(new Error('other')))).rejects.toThrow('other');
  });
  it('says so before it is', async () => {
    const storage = (usage: number) =>
      ({ estimate: async () => ({ usage, quota: 100 }), persisted: async () => true }) as unknown as StorageManager;
    expect(await askForRoom(storage(95))).toEqual({ persisted: true, nearlyFull: true });
    expect(await askForRoom(storage(50))).toEqual({ persisted: true, nearlyFull: false });
    expect(await askForRoom(undefined)).toEqual({ persisted: false, nearlyFull: false });
  });
});

describe('a newer program', () => {
  it('opens the store of an older one with everything that waits in it', async () => {
    const name = v4();
    const old = await openDB(name, 1, {
      upgrade(db) {
        db.createObjectStore('entries', { keyPath: 'id' }).createIndex('byShower', 'showerId');
        db.createObjectStore('showers', { keyPath: 'id' });
        db.createObjectStore('photos', { keyPath: 'hash' });
        db.createObjectStore('books');
        db.createObjectStore('kept');
      },
    });
    await old.put('entries', { id: 'e', showerId: 's', ledgerSeq: null, text: '{}' });
    await old.put('entries', { id: 'sent', showerId: 't', ledgerSeq: 4, text: '{}' });
    await old.put('photos', { hash: 'p', sent: false });
    old.close();
    const db = await openDatabase(name);
    expect([await db.count('entries'), await db.count('photos'), await db.count('small')]).toEqual([2, 1, 0]);
    expect(await showersWaiting(db)).toEqual(['s']);
  });
  it('makes the older one in another window let go', async () => {
    const name = v4();
    let told = 0;
    await openDatabase(name, () => {
      told += 1;
    });
    const newer = await openDB(name, 99);
    expect([told, newer.version]).toEqual([1, 99]);
    newer.close();
  });
});

describe('a picture in a format that this browser can not read', () => {
  it('is known by its first bytes', async () => {
    const file = (head: string) => new Blob([new Uint8Array([0, 0, 0, 24]), head]);
    expect([
      await isHeic(file('ftypheic')),
      await isHeic(file('ftypmif1')),
      await isHeic(file('ftypisom')),
      await isHeic(new Blob([])),
    ]).toEqual([true, true, false, false]);
  });
});
