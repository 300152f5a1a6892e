import type { DataSource } from 'typeorm';
import { Refusal } from '../refusals/refusal';
import { ofCrew } from '../showers/showerRows';
import { CREWS_LOCK } from '../store/crewsLock';
import { CrewEntity, type CrewRow } from '../store/entities/people';

/** Names of showers that are told where a crew has some left. */
const TOLD = 5;

/** Columns in which a crew is counted, by their tables. */
const COUNTED = [
  ['defect_counted', 'crew'],
  ['defect_counted', 'fixer'],
  ['inspected_counted', 'crew'],
  ['old_defect', 'crew'],
] as const;

/**
 * Makes a crew part of another, in one step: its people go over, links to it end, and across crews its past counts as the other's. What
 * its records say stays as it was told. Refused while showers that are not signed are its own: each is handed over in its record first.
 */
export async function mergeCrew(store: DataSource, id: string, into: string, now: Date): Promise<CrewRow> {
  return store.transaction(async (all) => {
    // Whoever counts showers meanwhile does so before or after this, never half way.
    await all.query(`SELECT pg_advisory_xact_lock(${CREWS_LOCK})`);
    const crews = all.getRepository(CrewEntity);
    // Both at once: two managers who merge the same crews the other way round do not make a ring.
    const found = await crews.find({ order: { id: 'ASC' }, lock: { mode: 'pessimistic_write' } });
    const [crew, other] = [id, into].map((key) => found.find((c) => c.id === key));
    if (!crew) throw new Refusal('no-such-crew', 'crew');
    if (!other) throw new Refusal('no-such-crew', 'into');
    if (id === into) throw new Refusal('crew-into-itself', 'into');
    if (crew.into !== null) throw new Refusal('crew-not-standing', 'crew');
    if (other.into !== null) throw new Refusal('crew-not-standing', 'into');
    const left: { name: string }[] = await all.query(
      `SELECT s.name FROM shower s LEFT JOIN shower_head h ON h.shower_id = s.id
      WHERE ${ofCrew('$1')} AND h.is_signed IS NOT TRUE ORDER BY s.name`,
      [id],
    );
    if (left.length > 0) {
      const names = left.slice(0, TOLD).map((s) => s.name);
      throw new Refusal('crew-has-showers', 'crew', {
        count: left.length,
        names: names.join(', ') + (left.length > TOLD ? ', …' : ''),
      });
    }
    await all.query('UPDATE crew SET into_crew = $2 WHERE id = $1 OR into_crew = $1', [id, into]);
    await all.query('UPDATE firm_user SET crew_id = $2 WHERE crew_id = $1', [id, into]);
    await all.query('UPDATE access_link SET revoked_at = coalesce(revoked_at, $2) WHERE crew_id = $1', [id, now]);
    for (const [table, column] of COUNTED)
      await all.query(`UPDATE ${table} SET ${column} = $2 WHERE ${column} = $1`, [id, into]);
    return { ...crew, into };
  });
}
