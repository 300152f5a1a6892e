import { execFileSync } from 'node:child_process';
import { expect, type Page } from '@playwright/test';

const HOUR_MS = 3_600_000;

/** A logger's file of a tight shower with its pan: water and pan lose the same to the air. Hours from the start. */
export function tightLogger(startMs: number, fromHour: number, toHour: number): string {
  const rows = ['Date time,Water level (mm),Pan level (mm)'];
  for (let at = fromHour * 6; at <= toHour * 6; at += 1) {
    const hours = at / 6;
    const noise = (k: number) => 0.1 * Math.round(1.2 * Math.sin(at * k));
    const fall = (1.8 / 24) * hours;
    const time = new Date(startMs + hours * HOUR_MS).toISOString();
    rows.push(`${time},${(80 - fall + noise(1.7)).toFixed(1)},${(60 - fall + noise(2.9)).toFixed(1)}`);
  }
  return `${rows.join('\n')}\n`;
}

/** Opens the flood test of a shower that stands in water. */
export async function openFlood(page: Page, name: string): Promise<void> {
  await page.goto('/');
  await page.getByRole('link', { name: new RegExp(`^${name}`) }).click();
  await expect(page.getByRole('heading', { name: `Flood test: ${name}` })).toBeVisible();
}

const key = (page: Page, name: string) => page.getByRole('button', { name, exact: true });

/** Takes one of the demo's logger files in, saying its unit. */
export async function takeFile(page: Page, file: string, unit: string, count: number): Promise<void> {
  await key(page, 'Logger file').click();
  await page.locator('input[type=file]').first().setInputFiles(`demo/files/${file}`);
  await expect(page.getByTestId('logger-preview')).toContainText(`${count} readings, one every 10 min`);
  await expect(page.getByRole('button', { name: 'Say the unit first' })).toBeDisabled();
  await page.getByRole('radio', { name: unit, exact: true }).click();
  await page.getByRole('button', { name: `Take in ${count} readings` }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
}

/** What must be done before the water goes in: everything prepared, dry everywhere. */
export async function prepareDry(page: Page): Promise<void> {
  for (const box of await page.getByRole('checkbox').all()) await box.check();
  await key(page, 'Dry everywhere').click();
}

/** All places dry at the end; the test is ended with the verdict that the sheet names. */
export async function endDry(page: Page, word: string): Promise<void> {
  await key(page, 'End the test').click();
  await expect(page.getByRole('button', { name: 'Answer every place first' })).toBeDisabled();
  for (const place of await page.getByRole('dialog').getByRole('group').all())
    await place.getByRole('button', { name: 'Dry' }).click();
  await expect(page.getByTestId('end-verdict')).toContainText(word);
  await page.getByRole('button', { name: `End the test: ${word}` }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
}

/** What the product says of the running test. */
export const verdict = (page: Page) => page.getByTestId('flood-verdict');

/** From the flood back to the shower, at one of its stages. */
export async function toStage(page: Page, name: RegExp): Promise<void> {
  await page.getByRole('link', { name: 'Shower', exact: true }).click();
  await page.getByRole('navigation', { name: 'Stages' }).getByRole('button', { name }).click();
}

/** The words of the printed record. */
export async function printed(page: Page): Promise<string> {
  await page.getByRole('link', { name: 'Record' }).click();
  await expect(page.getByText('All entries sent')).toBeVisible();
  const downloading = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Print (PDF)' }).click();
  return execFileSync('pdftotext', ['-layout', (await (await downloading).path())!, '-'])
    .toString()
    .replaceAll(/\s+/g, ' ');
}

/** Releases the flood stage and what protects the membrane, so that tile may begin. */
export async function releaseToTile(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Release: Flood test' }).click();
  await expect(page.getByText('This stage is released.')).toBeVisible();
  await page
    .getByRole('navigation', { name: 'Stages' })
    .getByRole('button', { name: /release to tile/ })
    .click();
  for (const part of ['Drain', 'Floor']) {
    await page.getByRole('complementary').getByRole('button', { name: part }).click();
    await page.getByRole('button', { name: /^Sound(?!.*with a picture)/ }).click();
    await page.getByRole('button', { name: 'Stage', exact: true }).click();
  }
  await page.getByRole('button', { name: /^Release: Protection/ }).click();
  await expect(page.getByRole('navigation', { name: 'Stages' })).toContainText('may begin');
}
