import { mkdirSync, writeFileSync } from 'node:fs';
import { LOGGER_FILES } from './demoFloods';

/** Writes the demo's logger files, for people who try the program. */
mkdirSync('demo/files', { recursive: true });
for (const [name, make] of Object.entries(LOGGER_FILES)) writeFileSync(`demo/files/${name}`, make());
