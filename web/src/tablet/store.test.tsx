import type { Person } from '@careful-seam/contract/api/messages';
import { sampleShower } from '@careful-seam/core/tests/sampleShower';
import { BOOK } from '@careful-seam/core/tests/sampleTablet';
import { act, renderHook, waitFor } from '@testing-library/react';
import { v4 } from 'uuid';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest';
import { responseOf, SimulatedServer } from '../tests/simulatedServer';
import { ApiError } from './api';
import { countWaiting, useNamedShowers, useStore } from './store';

// The tablet as one whole: its real store over an IndexedDB in memory, and the real calls to a simulated server.

const INES: Person = { id: 'ines', name: 'Ines Test', role: 'inspector', crewId: null };
let server: SimulatedServer;
/** Whether there is a network. */
let online = true;
/** What was asked, as method and path. */
let asked: string[] = [];

const answered = async (path: string, init: RequestInit = {}): Promise<Response> => {
  const method = init.method ?? 'GET';
  asked.push(`${method} ${path}`);
  if (!online) throw new TypeError('network');
  if (path === '/api/session' && method === 'POST') {
    const { password } = JSON.parse(String(init.body)) as { password: string };
    const error = { code: 'sign-in-failed', field: 'password', values: {}, message: '' };
    return password === 'right'
      ? new Response(JSON.stringify({ person: INES, expiresAt: new Date(Date.now() + 86_400_000).toISOString() }), {
          status: 200,
        })
      : new Response(JSON.stringify({ error }), { status: 401 });
  }
  if (path.startsWith('/api/session'))
    return new Response(JSON.stringify({ person: INES, expiresAt: new Date(Date.now() + 86_400_000).toISOString() }), {
      status: 200,
    });
  if (path.startsWith('/api/people')) return new Response('{}', { status: 200 });
  return responseOf(await server.handle(method, path, init.body ?? undefined));
};

const store = () => useStore.getState();
/** Waits until no round of sync runs. */
const settled = () => act(() => store().sync());

/** A shower with a drawing and rules, written on this tablet. */
async function newShower(name: string): Promise<string> {
  const id = v4();
  await store().writeAll(id, [
    { kind: 'shower-created', body: { name, job: 'House', crewId: 'heron', timeZone: 'UTC' } },
    { kind: 'geometry-set', body: { version: 1, geometry: sampleShower() } },
    { kind: 'rules-pinned', body: { ruleBook: BOOK.id, version: BOOK.version, method: 'bonded-sheet' } },
  ]);
  return id;
}

beforeAll(async () => {
  server = new SimulatedServer();
  vi.stubGlobal('fetch', answered);
  await store().open();
});
afterAll(() => {
  vi.unstubAllGlobals();
});
beforeEach(() => {
  online = true;
  asked = [];
});
afterEach(async () => {
  online = true;
  await settled();
});

describe('a tablet', () => {
  it('that nobody has signed in on is signed out, and asks for nothing by itself', () => {
    expect(store()).toMatchObject({ person: null, connection: 'signed-out' });
    expect(asked).toEqual([]);
  });
  it('refuses a wrong password with its code, and stays signed out', async () => {
    const refusal = await store()
      .signIn('ines', 'wrong')
      .catch((e: unknown) => e);
    expect(refusal).toBeInstanceOf(ApiError);
    expect((refusal as ApiError).code).toBe('sign-in-failed');
    expect(store().person).toBeNull();
  });
  it('lets the right one in, and has the rule book and the crews with the first round', async () => {
    await store().signIn('ines', 'right');
    await settled();
    expect(store()).toMatchObject({ person: INES, connection: 'online', failure: null });
    expect([...store().books.keys()]).toEqual([`${BOOK.id}@${BOOK.version}`]);
    expect(store().settings).not.toBeNull();
  });
});

describe('what is entered', () => {
  it('is shown before the network has it, and waits while there is none', async () => {
    online = false;
    const id = await newShower('Cellar bath');
    expect(store().showers.get(id)!.state.created!.body.name).toBe('Cellar bath');
    expect(store().showers.get(id)!.state.requirements.length).toBeGreaterThan(50);
    await settled();
    expect(store().connection).toBe('offline');
    expect(countWaiting(store().showers.values())).toBe(3);
    online = true;
    await settled();
    expect(countWaiting(store().showers.values())).toBe(0);
    expect(store().connection).toBe('online');
    expect(server.ledgers.get(id)!.places).toHaveLength(3);
  });
  it('as several is one: all of it or nothing', async () => {
    const id = await newShower('One');
    const before = store().showers.get(id)!.entries.length;
    const bad = { kind: 'note' as const, body: { words: 7 } };
    const good = { kind: 'note' as const, body: { words: 'fine' } };
    await expect(store().writeAll(id, [good, bad])).rejects.toThrow();
    await store().refresh(id);
    expect(store().showers.get(id)!.entries).toHaveLength(before);
  });
  it('twice within a moment is a double tap, and is written once', async () => {
    const id = await newShower('Two');
    const [first, second] = await Promise.all([
      store().write(id, 'note', { words: 'once' }),
      store().write(id, 'note', { words: 'once' }),
    ]);
    expect(second).toBe(first);
    expect(store().showers.get(id)!.state.notes).toHaveLength(1);
  });
  it('goes out while a round runs with the next one, at once', async () => {
    const id = await newShower('Three');
    const round = store().sync();
    await store().write(id, 'note', { words: 'meanwhile' });
    await round;
    await settled();
    expect(server.ledgers.get(id)!.places.some((p) => p.text.includes('meanwhile'))).toBe(true);
  });
});

describe('a shower', () => {
  it('is named in lists whether it is awake or asleep', async () => {
    const id = await newShower('Named');
    const { result } = renderHook(() => useNamedShowers());
    expect(result.current).toContainEqual({ id, name: 'Named', job: 'House' });
  });
  it('speaks the language that is spoken, with everything that is read through the rule book', async () => {
    const id = await newShower('Habla');
    const label = () =>
      store()
        .showers.get(id)!
        .state.rules!.method.stages.find((s) => s.key === 'membrane')!.label;
    const english = label();
    await act(() => store().speak('es'));
    expect(label()).not.toBe(english);
    await act(() => store().speak('en'));
    expect(label()).toBe(english);
  });
  it('that is not here is fetched, or told as not to be had', async () => {
    expect(await store().fetchShower(v4())).toBe(false);
    online = false;
    expect(await store().fetchShower(v4())).toBe(false);
  });
  it('waits on while nothing is entered', async () => {
    const id = await newShower('Waits');
    const before = store().showers.get(id)!.state.clockMs;
    const later = Date.now() + 3_600_000;
    vi.spyOn(Date, 'now').mockReturnValue(later);
    store().tick();
    vi.restoreAllMocks();
    expect(store().showers.get(id)!.state.clockMs).toBeGreaterThanOrEqual(before + 3_000_000);
  });
});

describe('signing out', () => {
  it('keeps what waits here for its writer, who finds it again', async () => {
    online = false;
    const id = await newShower('Left behind');
    await settled();
    await store().signOut();
    expect(store()).toMatchObject({ person: null, connection: 'signed-out' });
    online = true;
    await store().sync();
    expect(server.ledgers.get(id)).toBeUndefined();
    await store().signIn('ines', 'right');
    await waitFor(() => expect(server.ledgers.get(id)!.places).toHaveLength(3));
  });
});
