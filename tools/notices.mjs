// The licences of everything that is shipped: what the server loads and what is in the interface. Node built-ins only.
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

/** Packages of the lock file that are no development tools, with where they lie. */
function shipped(project) {
  const { packages } = JSON.parse(readFileSync(join(project, 'package-lock.json'), 'utf8'));
  return Object.entries(packages)
    .filter(([path, p]) => path.includes('node_modules/') && !p.dev && !p.devOptional && !p.link)
    .map(([path]) => join(project, path))
    .filter((folder) => existsSync(join(folder, 'package.json')));
}

const LICENCE = /^(licen[cs]e|copying|notice|ofl)/i;

function notice(folder) {
  const about = JSON.parse(readFileSync(join(folder, 'package.json'), 'utf8'));
  const files = readdirSync(folder, { withFileTypes: true })
    .filter((f) => f.isFile() && LICENCE.test(f.name) && !/\.[cm]?[jt]s$/.test(f.name))
    .map((f) => f.name);
  const texts = files.map((name) => readFileSync(join(folder, name), 'utf8').trim());
  const licence = typeof about.license === 'string' ? about.license : (about.license?.type ?? 'see its text');
  return { name: `${about.name} ${about.version}`, licence, text: texts.join('\n\n') };
}

/** Writes them into a file beside the interface: each text once, under the names of all packages that it is of. */
export function writeNotices(project, path) {
  const byText = new Map();
  for (const folder of shipped(project)) {
    const { name, licence, text } = notice(folder);
    const key = `${licence}\n${text.replaceAll(/\s+/g, ' ')}`;
    const known = byText.get(key) ?? { names: new Set(), licence, text };
    known.names.add(name);
    byText.set(key, known);
  }
  const parts = [...byText.values()].map(({ names, licence, text }) => {
    const sorted = [...names].sort((a, b) => a.localeCompare(b));
    return `${sorted.join('\n')}\nLicence: ${licence}\n\n${text || '(its package holds no text of it)'}\n`;
  });
  const sorted = parts.sort((a, b) => a.localeCompare(b));
  const head = 'Careful Seam is shipped with these packages of others.\n';
  writeFileSync(path, [head, ...sorted].join(`\n${'-'.repeat(72)}\n\n`));
}
