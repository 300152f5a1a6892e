import type { DataSource } from 'typeorm';
import { isLoopback } from '../environment/environment';

/** True when the firm that is stored here is the invented one, whose passwords everybody knows. */
export async function holdsDemo(store: DataSource): Promise<boolean> {
  const rows: unknown[] = await store.query('SELECT 1 FROM demo_firm LIMIT 1');
  return rows.length > 0;
}

/** What a proxy adds to a request that it hands on. */
const FORWARDED = [
  'forwarded',
  'x-forwarded-for',
  'x-forwarded-host',
  'x-forwarded-proto',
  'x-real-ip',
  'via',
] as const;

/** True for a request that was made on this machine itself, to this machine by its own name, and that nobody handed on. */
export function cameFromHere(header: (name: string) => string | undefined): boolean {
  const host = (header('host') ?? '').replace(/:\d+$/, '').replace(/^\[(.*)\]$/, '$1');
  return isLoopback(host) && FORWARDED.every((name) => header(name) === undefined);
}
