import { writeFileSync } from 'node:fs';
import { ShowerRecord } from '@careful-seam/contract/record/record';
import { RuleBook } from '@careful-seam/core/rules/ruleBook';
import { ERRORS } from '@careful-seam/words/errors/errors';
import { pageOf } from '@careful-seam/words/errors/page';
import { z } from 'zod';
import { ShowersFile } from '../showersFile';

/** Writes the JSON Schemas of the files that leave the program, and the page of its errors. */
const FORMATS = { 'shower-record': ShowerRecord, 'rule-book': RuleBook, showers: ShowersFile };
for (const [name, schema] of Object.entries(FORMATS)) {
  writeFileSync(`docs/formats/${name}.schema.json`, `${JSON.stringify(z.toJSONSchema(schema), null, 2)}\n`);
}
writeFileSync('docs/errors.md', pageOf(ERRORS));
