import 'fake-indexeddb/auto';
import { describe, expect, it } from 'vitest';
import { type SimulationReport, simulateSync } from './simulateSync';

const reports: SimulationReport[] = [];

describe('many tablets on a bad network, with crashes, wrong clocks and restored servers', () => {
  const seeds = Array.from({ length: 15 }, (_, k) => k + 1);
  // Two seconds each on a free machine; beside the other tests it may take long.
  it.each(seeds)('seed %i loses nothing and ends in one state', { timeout: 180_000 }, async (seed) => {
    const report = await simulateSync(seed);
    reports.push(report);
    expect(report.problems).toEqual([]);
    expect(report.typed).toBeGreaterThan(10);
  });

  it('really drops, crashes and restores', () => {
    const sum = (key: 'lost' | 'crashes' | 'restores' | 'clockJumps') => reports.reduce((n, r) => n + r[key], 0);
    console.info(
      `tablet simulation, ${reports.length} seeds: ${sum('lost')} requests lost, ${sum('crashes')} tablets without power, ${sum('restores')} servers restored, ${sum('clockJumps')} clocks set wrong, ${reports.reduce((n, r) => n + r.typed, 0)} entries typed, ${reports.flatMap((r) => r.problems).length} lost or different`,
    );
    for (const key of ['lost', 'crashes', 'restores', 'clockJumps'] as const) expect(sum(key)).toBeGreaterThan(0);
  });
});
