import type { FirstPerson } from '@careful-seam/contract/api/setUp';
import type { Role } from '@careful-seam/core/log/roles';
import Papa from 'papaparse';

/** Words for a role, as people type them. */
const ROLE_WORDS: readonly [role: Role, words: RegExp][] = [
  ['crew-lead', /crew|lead|cuadrilla|jefe/i],
  ['manager', /manager|quality|gerente|encargad/i],
  ['inspector', /inspect/i],
];

/** A line that can't be read, counted from one, and why. */
export interface LineProblem {
  line: number;
  why: 'no-role' | 'no-crew' | 'no-name';
}

/** First name in small letters without marks, with a number where somebody has it already. */
function signInOf(name: string, taken: ReadonlySet<string>): string {
  const plain = name.normalize('NFD').replaceAll(/\p{M}/gu, '').toLowerCase();
  const base = (plain.split(/\s+/)[0] ?? '').replaceAll(/[^a-z0-9]/g, '').slice(0, 30) || 'person';
  const long = base.length < 2 ? `${base}${base}` : base;
  let found = long;
  for (let k = 2; taken.has(found); k += 1) found = `${long}${k}`;
  return found;
}

/**
 * People from a pasted list: a line each with name, role and, for a crew lead, the crew, apart by commas, semicolons or
 * tabs, as a table of people comes out of a spreadsheet. Sign-in names are made from first names; `taken` ones are left out.
 */
export function readPeople(
  text: string,
  crews: readonly string[],
  taken: readonly string[] = [],
): { people: FirstPerson[]; problems: LineProblem[] } {
  const people: FirstPerson[] = [];
  const problems: LineProblem[] = [];
  const used = new Set(taken);
  const { data } = Papa.parse<string[]>(text.trim(), { delimitersToGuess: ['\t', ';', ','], skipEmptyLines: false });
  data.forEach((cells, i) => {
    const [name = '', said = '', third = ''] = cells.map((c) => c.trim());
    if (cells.every((c) => c.trim() === '')) return;
    const role = ROLE_WORDS.find(([, words]) => words.test(said))?.[0];
    const crew = crews.find((c) => c.toLowerCase() === third.toLowerCase()) ?? null;
    const why = name === '' ? 'no-name' : !role ? 'no-role' : role === 'crew-lead' && crew === null ? 'no-crew' : null;
    if (why) problems.push({ line: i + 1, why });
    if (why || !role) return;
    const signIn = signInOf(name, used);
    used.add(signIn);
    people.push({ name: name.slice(0, 120), signIn, role, crew: role === 'crew-lead' ? crew : null });
  });
  return { people, problems };
}
