import { makeDataSource } from '../store/dataSource';
import type { Finding } from '../verify/verifyLedger';

/** Showers compared at a time. */
const COMPARED = 500;
/**
 * Whether every head of a restored backup stands in the ledger in force: entry for entry the same up to there, since a head covers
 * all before it. What came later than the backup is no difference.
 */
export async function compareHeads(prepared: string, inForce: string): Promise<{ same: number; findings: Finding[] }> {
  const [backup, live] = [
    await makeDataSource(prepared, 1).initialize(),
    await makeDataSource(inForce, 1).initialize(),
  ];
  const findings: Finding[] = [];
  let same = 0;
  try {
    for (let after = '00000000-0000-0000-0000-000000000000'; ; ) {
      const heads: { id: string; seq: number; hash: string | null }[] = await backup.query(
        `SELECT shower_id AS id, head_seq AS seq, encode(head_hash, 'hex') AS hash FROM shower_head WHERE shower_id > $1 ORDER BY shower_id LIMIT ${COMPARED}`,
        [after],
      );
      const found: { id: string }[] = await live.query(
        `SELECT w.id FROM jsonb_to_recordset($1::jsonb) AS w(id uuid, seq int, hash text)
        LEFT JOIN entry e ON e.shower_id = w.id AND e.ledger_seq = w.seq
        WHERE w.seq = 0 OR encode(e.ledger_hash, 'hex') = w.hash`,
        [JSON.stringify(heads)],
      );
      const here = new Set(found.map((f) => f.id));
      same += here.size;
      for (const { id } of heads)
        if (!here.has(id))
          findings.push({ where: `shower ${id}`, what: 'the ledger in force does not hold what the backup holds' });
      if (heads.length < COMPARED) return { same, findings };
      after = heads.at(-1)!.id;
    }
  } finally {
    await backup.destroy();
    await live.destroy();
  }
}
