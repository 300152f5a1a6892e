import { CHANGED, versionOf } from '../outcome/versions';
import type { Check } from '../rules/checks/check';

/** Which calculation judges a kind of check; kinds that are looked at have none. */
const JUDGED_BY: Partial<Record<Check['kind'], string>> = { measured: 'lap-verdict', flood: 'flood-verdict' };

/**
 * True when something stated then was judged by an older calculation than today's, at a time at which that one was in use:
 * `calculations` are those stated, `atMs` when the server took the statement in.
 */
export function judgedByOlder(
  kind: Check['kind'],
  calculations: Readonly<Record<string, string>>,
  atMs: number,
): boolean {
  const name = JUDGED_BY[kind];
  const stated = name === undefined ? undefined : calculations[name];
  const until = name === undefined || stated === undefined ? undefined : CHANGED[name]?.until[stated];
  return until !== undefined && atMs < Date.parse(until);
}

/** Versions of the calculations that judge checks, by name, as a release states them. */
export const judgingVersions = (): Record<string, string> =>
  Object.fromEntries(Object.values(JUDGED_BY).map((name) => [name, versionOf(name)]));
