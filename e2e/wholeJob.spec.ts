import { execFileSync } from 'node:child_process';
import sharp from 'sharp';
import {
  circleOnPicture,
  closeDefect,
  expect,
  finishStage,
  makeShower,
  open,
  PASSWORD,
  read,
  stage,
  test,
} from './acting';

async function release(page: import('@playwright/test').Page, name: string) {
  await page.getByRole('button', { name: `Release: ${name}` }).click();
  await expect(page.getByText('This stage is released.')).toBeVisible();
}

test('the whole job: new shower, short lap, defect with picture, redo, release, signature, PDF', async ({
  tablet: page,
}) => {
  const name = `Job ${Date.now()}`;
  await makeShower(page, name, { width: '24', depth: '24', beginsAt: 'membrane' });

  // Three readings with the pad on one seam; one is 1 7/8 in.
  await stage(page, 'Membrane');
  await open(page, 'Foot of wall B');
  await page.getByRole('button', { name: 'on wall B' }).click();
  await page.getByRole('button', { name: '2', exact: true }).click();
  await page.getByRole('button', { name: '1/4', exact: true }).click();
  await expect(page.getByLabel('Value', { exact: true })).toHaveValue('2 1/4');
  await page.getByRole('button', { name: /^Keep 2 1\/4/ }).click();
  await page.getByRole('button', { name: '1', exact: true }).click();
  await page.getByRole('button', { name: '7/8', exact: true }).click();
  await page.getByLabel('Place along the seam').fill('14');
  await page.getByRole('button', { name: 'Keep 1 7/8 at 14' }).click();
  await read(page, '2 1/8', '20');
  await expect(page.getByText('Hold: lap 1 7/8 in at 14 in from the left end; needs at least 2 in.')).toBeVisible();
  await expect(page.locator('[data-line=defect]').first()).toBeAttached();

  // The defect, with a picture and a mark.
  await page.getByRole('button', { name: 'Picture and kind' }).click();
  const jpeg = await sharp({ create: { width: 640, height: 480, channels: 3, background: '#b9713a' } })
    .jpeg()
    .toBuffer();
  await page.getByLabel('What is wrong').fill('Band slid');
  await page
    .locator('input[type=file]')
    .first()
    .setInputFiles({ name: 'seam.jpg', mimeType: 'image/jpeg', buffer: jpeg });
  await circleOnPicture(page);
  await page.getByRole('button', { name: 'Keep this defect' }).click();
  await expect(page.getByText('Short lap · Stop')).toBeVisible();

  // Redone: the evidence on the stretch goes, and is asked anew.
  await page.getByRole('button', { name: 'Give it to a crew' }).click();
  await page.getByRole('button', { name: 'Was redone' }).click();
  await page.getByLabel('What was done').fill('Band cut out and bedded again');
  await page.getByRole('button', { name: 'It was redone' }).click();
  await expect(page.getByText('Hold: lap 1 7/8 in')).toHaveCount(0);
  await read(page, '2 1/4', '14');
  await page.getByRole('button', { name: 'Look again' }).click();
  await closeDefect(page, 'workmanship');
  await expect(page.getByText('Short lap · Stop')).toHaveCount(0);

  // A run of looks, the rest of the readings, release.
  await page.getByRole('button', { name: 'All of wall B' }).click();
  await page.getByRole('button', { name: /^Sound(?!.*with a picture)/ }).click();
  await finishStage(page, 'Membrane', '2 3/16');
  await release(page, 'Membrane');
  await finishStage(page, 'Drain tie-in', '1');
  await release(page, 'Drain tie-in');

  // Signature with the password entered again, wrong at first.
  await page.getByRole('link', { name: 'Record' }).click();
  await page.getByLabel('Password once more').fill('not this one');
  await page.getByRole('button', { name: 'Sign the record' }).click();
  await expect(page.getByRole('alert')).toContainText('not your password');
  await page.getByLabel('Password once more').fill(PASSWORD);
  await page.getByRole('button', { name: 'Sign the record' }).click();
  await expect(page.getByText(/^Signed by Ines Corrigan/)).toBeVisible();

  const downloading = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Print (PDF)' }).click();
  const text = execFileSync('pdftotext', ['-layout', (await (await downloading).path())!, '-']).toString();
  for (const figure of [
    name,
    '24 in x 24 in',
    '1 7/8 in',
    '2 1/4 in',
    'Short lap',
    'Band slid',
    'What went wrong: Workmanship',
    'Signed by Ines Corrigan',
    'Rule book ',
    'Ledger head',
    'not a warranty',
    'no longer counts',
  ])
    expect(text).toContain(figure);
  expect(text).toMatch(/Membrane: released by Ines Corrigan/);
});
