import {
  type DeviceLine,
  type DeviceQuantity,
  type DeviceReadings,
  READINGS_TOLD,
  type TakenPack,
} from '@careful-seam/contract/api/devices';
import { deviceReadings } from '@careful-seam/files/instruments/deviceReadings';
import { readSenml } from '@careful-seam/files/instruments/senml';
import type { DataSource } from 'typeorm';
import { useLink } from '../people/links';
import { Refusal } from '../refusals/refusal';

/** Readings are kept so long where nobody took them into a record, ms. */
const KEPT_MS = 60 * 86_400_000;

/**
 * Takes a pack in: what arrives is kept whether a browser is open or not. What was sent before is known, whatever the order. The code
 * may be ended in the office at any time.
 */
export async function takePack(store: DataSource, code: string, text: string, now: Date): Promise<TakenPack> {
  const pack = readSenml(text);
  if (!pack.ok) throw Refusal.of(pack.problem);
  const link = await useLink(store, 'device', code, now);
  const { readings, left, shiftedMs } = deviceReadings(pack.value, now.getTime());
  if (readings.length === 0) return { stored: 0, known: 0, left, shiftedMs: 0 };
  const stored: { n: number }[] = await store.query(
    `WITH sent AS (SELECT DISTINCT ON (of, at_ms) of, at_ms, value FROM jsonb_to_recordset($2::jsonb) AS r(of text, at_ms bigint, value double precision)),
      put AS (INSERT INTO device_reading (link_id, of, at_ms, value) SELECT $1::uuid, of, at_ms, value FROM sent ON CONFLICT DO NOTHING RETURNING 1)
    SELECT count(*)::int AS n FROM put`,
    [link.id, JSON.stringify(readings.map(({ of, atMs, value }) => ({ of, at_ms: atMs, value })))],
  );
  await store.query('DELETE FROM device_reading WHERE link_id = $1 AND at_ms < $2', [link.id, now.getTime() - KEPT_MS]);
  const n = stored[0]!.n;
  return { stored: n, known: readings.length - n, left, shiftedMs };
}

/** Instruments that may still send, by their names. */
export async function listDevices(store: DataSource, now: Date): Promise<DeviceLine[]> {
  const rows: { id: string; label: string; last: string | null; n: number; quantities: DeviceQuantity[] | null }[] =
    await store.query(
      `SELECT l.id, l.label, max(r.at_ms)::text AS last, count(r.at_ms)::int AS n, array_agg(DISTINCT r.of) FILTER (WHERE r.of IS NOT NULL) AS quantities
      FROM access_link l LEFT JOIN device_reading r ON r.link_id = l.id
      WHERE l.kind = 'device' AND l.revoked_at IS NULL AND l.expires_at > $1 GROUP BY l.id, l.label ORDER BY l.label, l.id`,
      [now],
    );
  return rows.map(({ id, label, last, n, quantities }) => ({
    id,
    label,
    lastMs: last === null ? null : Number(last),
    readings: n,
    quantities: quantities ?? [],
  }));
}

/** Readings of an instrument after a moment, in their order. */
export async function readingsAfter(
  store: DataSource,
  id: string,
  of: DeviceQuantity,
  afterMs: number,
): Promise<DeviceReadings> {
  const rows: { at: string; value: number }[] = await store.query(
    'SELECT at_ms::text AS at, value FROM device_reading WHERE link_id = $1 AND of = $2 AND at_ms > $3 ORDER BY at_ms LIMIT $4',
    [id, of, Math.round(afterMs), READINGS_TOLD + 1],
  );
  return {
    readings: rows.slice(0, READINGS_TOLD).map((r) => ({ atMs: Number(r.at), value: r.value })),
    more: rows.length > READINGS_TOLD,
  };
}
