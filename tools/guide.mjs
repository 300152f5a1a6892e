// npm run guide: docs/guide and docs/glossary.md, from the texts of the help that the screens show. Node built-ins only.
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const PROJECT = join(dirname(fileURLToPath(import.meta.url)), '..');
const LANGUAGES = ['en', 'es'];
/** For whom which screens are, in the order in which a day comes to them. */
const READERS = {
  inspector: ['day', 'new', 'shower', 'film', 'cure', 'survey', 'materials', 'flood', 'call', 'record'],
  crew: ['crew'],
  office: ['office', 'week', 'across', 'record'],
};
const TITLES = {
  en: { inspector: 'For the inspector', crew: 'For the crew', office: 'For the office', words: 'Words' },
  es: { inspector: 'Para quien inspecciona', crew: 'Para la cuadrilla', office: 'Para la oficina', words: 'Palabras' },
};

const helpIn = (language) =>
  JSON.parse(readFileSync(join(PROJECT, 'web', 'src', 'texts', 'help', `${language}.json`), 'utf8'));

/** One reader's guide in one language, as Markdown. */
function guideFor(reader, language) {
  const { screens, glossary } = helpIn(language);
  const words = new Set();
  const parts = READERS[reader].map((key) => {
    const { title, for: purpose, do: steps, words: meant } = screens[key];
    for (const id of meant) words.add(id);
    return `## ${title}\n\n${purpose}\n\n${steps.map((step, k) => `${k + 1}. ${step}`).join('\n')}\n`;
  });
  const meanings = [...words]
    .map((id) => glossary[id])
    .sort((a, b) => a.word.localeCompare(b.word, language))
    .map(({ word, means }) => `- **${word}**: ${means}`);
  return `# ${TITLES[language][reader]}\n\n${parts.join('\n')}\n## ${TITLES[language].words}\n\n${meanings.join('\n')}\n`;
}

/** The words of the trade in both languages side by side, as Markdown. */
function glossaryPage() {
  const [en, es] = LANGUAGES.map((language) => helpIn(language).glossary);
  const rows = Object.keys(en)
    .sort((a, b) => en[a].word.localeCompare(en[b].word, 'en'))
    .map((id) => `| ${en[id].word} | ${es[id].word} | ${en[id].means} |`);
  return [
    '# Words of the trade',
    '',
    'Made by `npm run guide` from the texts of the help; one word for one thing in each language.',
    '',
    '| English | Español | What is meant |',
    '|---|---|---|',
    ...rows,
    '',
  ].join('\n');
}

/** Every page by its path under `docs`. */
export function guidePages() {
  const pages = { 'glossary.md': glossaryPage() };
  for (const reader of Object.keys(READERS))
    for (const language of LANGUAGES) pages[`guide/${reader}.${language}.md`] = guideFor(reader, language);
  return pages;
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  mkdirSync(join(PROJECT, 'docs', 'guide'), { recursive: true });
  for (const [path, text] of Object.entries(guidePages())) writeFileSync(join(PROJECT, 'docs', path), text);
}
