// npm run bench, third part: the hardest shower drawn anew while a dimension is dragged, in the real browser.

import { chromium } from '@playwright/test';
import { writeSection } from './performanceDoc.ts';

const STEPS = 200;
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu'] });
const page = await browser.newPage({
  viewport: { width: 1280, height: 800 },
  baseURL: process.env.BENCH_APPLICATION,
  serviceWorkers: 'block',
});
await page.goto('/sign-in');
await page.getByLabel('Sign-in name').fill('ines');
await page.getByLabel('Password').fill('try-every-seam');
await page.getByRole('button', { name: 'Sign in' }).click();
await page.getByRole('link', { name: 'New shower' }).click({ timeout: 60_000 });
await page.getByRole('radio', { name: 'Neo-angle' }).click();
await page.getByRole('tab', { name: /Niches/ }).click();
await page.getByRole('radio', { name: 'Sloped' }).click();
for (const add of ['Add a niche', 'Add a niche', 'Add a bench']) await page.getByRole('button', { name: add }).click();
await page.getByRole('tab', { name: /Room/ }).click();
await page.getByTestId('seam-total').waitFor();

const times = await page.evaluate(async (steps) => {
  const field = document.querySelector('input[name=width]');
  const { set } = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value');
  const total = () => document.querySelector('[data-testid=seam-total]').textContent;
  const frame = () => new Promise((done) => requestAnimationFrame(done));
  const out = { typed: [], frames: [], drawn: [] };
  let last = await frame();
  for (let k = 0; k < steps; k += 1) {
    const before = total();
    const start = performance.now();
    set.call(field, String(54 + (k % 16) / 8));
    field.dispatchEvent(new Event('input', { bubbles: true }));
    out.typed.push(performance.now() - start);
    while (total() === before && performance.now() - start < 1000) {
      const now = await frame();
      out.frames.push(now - last);
      last = now;
    }
    out.drawn.push(performance.now() - start);
  }
  return out;
}, STEPS);
await browser.close();

const at = (list, share) => {
  const sorted = [...list].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))].toFixed(1);
};
const rows = [
  ['the key is taken (the page is busy so long)', times.typed],
  ['from frame to frame while it goes on', times.frames],
  ['until the map stands drawn anew', times.drawn],
];
const table = [
  '| what | median ms | 95 % ms | worst ms |',
  '|---|---|---|---|',
  ...rows.map(([what, list]) => `| ${what} | ${at(list, 0.5)} | ${at(list, 0.95)} | ${at(list, 1)} |`),
].join('\n');
console.log(table);
writeSection(
  'Drawing while a dimension is dragged',
  `Made by \`npm run bench\`: a neo-angle steam shower with two niches and a bench in the form, ${STEPS} steps of 1/8 in, in Chromium on this machine without a graphics card. A frame is 16.7 ms; the map is drawn after the key, so that typing never waits for it.\n\n${table}`,
);
