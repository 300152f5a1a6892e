/** Calculations that have changed so that the same input may give another verdict. All others are at version 1. */
export const CHANGED: Readonly<Record<string, { version: string; until: Readonly<Record<string, string>> }>> = {
  // Until when a tablet may still have judged by an older one: a session works offline for 7 days.
  'flood-verdict': { version: '2', until: { '1': '2026-12-12T00:00:00.000Z' } },
  'lap-verdict': { version: '2', until: { '1': '2026-12-12T00:00:00.000Z' } },
};

/** The version of a calculation by its name in the catalogue. */
export const versionOf = (name: string): string => CHANGED[name]?.version ?? '1';
