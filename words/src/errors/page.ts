import type { Sentences } from './sentences';

/** The page of the documentation that lists every error: code, status, sentence. */
export function pageOf(table: Readonly<Record<string, Sentences>>): string {
  const rows = Object.entries(table)
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([code, { status = 422, en }]) => `| \`${code}\` | ${status} | ${en.replaceAll('|', '\\|')} |`);
  return `# Errors

An error is answered as \`{"error": {"code", "field", "values", "message"}}\`: \`code\` is one of this page, \`field\` a dotted path into what was
sent, \`values\` fill the sentence, \`message\` is the sentence in the language asked for (\`?lang=en\` or \`?lang=es\`, else what the browser
asks for). Made from the one table in \`words/src/errors\` by \`npm run formats\`; a test fails when the two differ.

| code | status | sentence |
|---|---|---|
${rows.join('\n')}
`;
}
