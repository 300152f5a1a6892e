import { readFileSync, writeFileSync } from 'node:fs';

const FILE = 'docs/performance.md';

/** Replaces one section (a heading of level 2 and what follows it) of docs/performance.md, or adds it at the end. */
export function writeSection(title: string, text: string): void {
  const parts = readFileSync(FILE, 'utf8').split(/^(?=## )/m);
  const section = `## ${title}\n\n${text.trim()}\n`;
  const at = parts.findIndex((p) => p.startsWith(`## ${title}\n`));
  if (at < 0) parts.push(section);
  else parts[at] = section;
  writeFileSync(FILE, `${parts.map((p) => p.trim()).join('\n\n')}\n`);
}
