import type { Page } from '@playwright/test';
import { closeDefect, expect, finishStage, open, stage, test, usedTablet, visit } from './acting';
import {
  endDry,
  openFlood,
  prepareDry,
  printed,
  releaseToTile,
  takeFile,
  tightLogger,
  toStage,
  verdict,
} from './waterActing';

const HOUR_MS = 3_600_000;
const key = (page: Page, name: string) => page.getByRole('button', { name, exact: true });

/** Chooses a seam of a kind where it lies on the map. */
async function chooseSeam(page: Page, kind: string): Promise<void> {
  const seam = page.locator(`[data-seam^="${kind}"]`).first();
  let box = (await seam.boundingBox())!;
  // The map settles into its room first.
  await expect(async () => {
    const before = box;
    box = (await seam.boundingBox())!;
    expect(box).toEqual(before);
  }).toPass();
  await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
}

test('evaporation only, from a logger file with its pan: passes, proves seams, releases to tile', async ({
  tablet: page,
}) => {
  await openFlood(page, '2A ensuite');
  await takeFile(page, '2a-ensuite-logger.csv', 'mm', 148);
  await expect(verdict(page)).toContainText('Tight');
  await expect(page.getByTestId('flood-chart').locator('svg')).toBeVisible();
  await endDry(page, 'Tight');
  await expect(page.getByTestId('proved')).toContainText('Proved by water:');
  await expect(page.getByTestId('proved')).toContainText('by readings: Lap');
  await toStage(page, /Flood test/);
  await expect(page.locator('[data-line=water]').first()).toBeAttached();
  await releaseToTile(page);
  const text = await printed(page);
  expect(text).toContain('23.4 gal (88.5 L), 195 lb');
  expect(text).toMatch(/Tight\. Beside what the air took, at most 0\.0\d in a day can have leaked/);
  expect(text).toMatch(/Net loss -?0\.0\d in a day; 95 % interval -?0\.0\d in to 0\.0\d in/);
  expect(text).toMatch(/Flood test: released by Ines Corrigan/);
  expect(text).toContain('Proved by water, below');
});

/** Releases a stage that went back; one that stands again by itself is left. */
async function releaseAgain(page: Page, name: string): Promise<void> {
  await stage(page, name);
  const released = page.getByText('This stage is released.');
  const held = page.getByRole('button', { name: new RegExp(`^(Release: ${name}|Hold: )`) });
  await expect(released.or(held)).toBeVisible();
  if (await released.isVisible()) return;
  await finishStage(page, name, '2');
  await page.getByRole('button', { name: `Release: ${name}` }).click();
  await expect(released).toBeVisible();
}

// Goes on with the shower that the test before it released to tile.
test('a redo under water after a passed flood: the flood is held with its reason, no tile, and only a new flood releases it', async ({
  browser,
}) => {
  const { context, page } = await usedTablet(browser, 'ines', { hoursBehind: 0 });
  const stages = page.getByRole('navigation', { name: 'Stages' });
  const flood = stages.getByRole('button', { name: /Flood test/ });
  const later = async (hours: number) => {
    await page.clock.fastForward(hours * HOUR_MS);
    await page.reload();
  };
  await page.getByRole('link', { name: /^2A ensuite/ }).click();
  await page.waitForURL(/showers/);
  const url = page
    .url()
    .split('?')[0]!
    .replace(/\/flood$/, '');
  await visit(page, `${url}?stage=flood-test`);
  await expect(page.getByText('This stage is released.')).toBeVisible();
  await expect(flood).toContainText('released');
  // What takes days is walked through without a signal.
  await context.setOffline(true);

  // A band at the foot of a wall, under the water line, is cut out and bedded again.
  await stage(page, 'Membrane');
  await chooseSeam(page, 'floor-wall');
  await expect(page.locator('aside h2')).toContainText('Foot of wall');
  await page.getByRole('button', { name: 'Defect', exact: true }).click();
  await page.getByLabel('Kind').selectOption({ label: 'Open lap, lifted edge' });
  await page.getByRole('radio', { name: 'Stop', exact: true }).click();
  await page.getByRole('button', { name: 'Keep this defect' }).click();
  await page.getByRole('button', { name: 'Give it to a crew' }).click();
  await page.getByRole('button', { name: 'Was redone' }).click();
  await page.getByLabel('What was done').fill('Band cut out and bedded again');
  await page.getByRole('button', { name: 'It was redone' }).click();

  // The flood proved the basin as it was: held, and why stands on the stage itself.
  await stage(page, 'Flood test');
  await expect(flood).toContainText('held');
  await expect(page.getByTestId('because')).toContainText('Only a new flood test proves it again');
  const tile = stages.getByRole('button', { name: /^Tile/ });
  await expect(tile).toContainText('held below');
  await tile.click();
  await expect(page.getByRole('button', { name: /^Release: Tile/ })).toHaveCount(0);
  await expect(page.getByRole('button', { name: /^Hold:/ })).toBeDisabled();

  // What was redone is looked at and proved again, the wait runs anew.
  await stage(page, 'Membrane');
  await open(page, 'Foot of wall');
  await page.getByRole('button', { name: 'Look again' }).click();
  await closeDefect(page);
  await expect(page.getByText('Open lap, lifted edge · Stop')).toHaveCount(0);
  await finishStage(page, 'Membrane', '2 1/4');
  await page.getByRole('button', { name: 'Release: Membrane' }).click();
  await expect(page.getByText('This stage is released.')).toBeVisible();
  for (const name of ['Drain tie-in', 'Cure']) {
    if (name === 'Cure') await later(25);
    await releaseAgain(page, name);
  }

  // A new flood, from its looks before the water on.
  await visit(page, `${url}/flood`);
  await key(page, 'A new test').click();
  await prepareDry(page);
  await page.getByRole('radio', { name: 'Level logger' }).click();
  await page.getByRole('button', { name: 'The water is in: start now' }).click();
  // The start is kept before the day goes on: a page closed at once would keep the entry or not, as it comes.
  await expect(page.getByRole('button', { name: 'Logger file', exact: true })).toBeVisible();
  const startMs = await page.evaluate(() => Date.now());
  await later(27);
  await page.getByRole('button', { name: 'Logger file', exact: true }).click();
  const buffer = Buffer.from(tightLogger(startMs, 1, 26));
  await page.locator('input[type=file]').first().setInputFiles({ name: 'again.csv', mimeType: 'text/csv', buffer });
  await page.getByRole('radio', { name: 'mm', exact: true }).click();
  await page.getByRole('button', { name: /^Take in \d+ readings/ }).click();
  await expect(page.getByTestId('flood-verdict')).toContainText('Tight');
  await endDry(page, 'Tight');
  await visit(page, `${url}?stage=flood-test`);
  await page.getByRole('button', { name: 'Release: Flood test' }).click();
  await expect(page.getByText('This stage is released.')).toBeVisible();
  await expect(page.getByTestId('because')).toHaveCount(0);
  await releaseAgain(page, 'Protection, release to tile');
  await expect(tile).toContainText('may begin');
  await context.close();
});
