// npm run drills: bad nights, played with real processes. Each ends with what was lost; anything but nothing fails.
import { spawnSync } from 'node:child_process';
import { build, installPackages, PROJECT } from './prepare.mjs';

installPackages();
build();
const { status } = spawnSync('npx', ['tsx', 'tools/playDrills.ts', ...process.argv.slice(2)], {
  cwd: PROJECT,
  stdio: 'inherit',
});
process.exit(status ?? 1);
