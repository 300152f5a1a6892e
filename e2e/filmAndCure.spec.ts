import { execFileSync } from 'node:child_process';
import type { Page } from '@playwright/test';
import { expect, finishStage, open, stage, test, usedTablet, visit } from './acting';
import { accessible, fits, smallTargets } from './soundness';

const HOUR_MS = 3_600_000;
/** WCAG 2.2 AA, nothing under 48 px, and no page scroll. */
const sound = async (page: Page) => {
  await accessible(page);
  await fits(page);
  expect(await smallTargets(page)).toEqual([]);
};
const pressed = async (page: Page, on: readonly string[]) => {
  for (const key of await page.getByRole('group', { name: 'Where it went on' }).getByRole('button').all()) {
    const wanted = on.includes((await key.textContent()) ?? '');
    if (((await key.getAttribute('aria-pressed')) === 'true') !== wanted) await key.click();
  }
};
/** A coat as the inspector keeps it: where, how much, how many hours ago. */
const coat = async (page: Page, on: readonly string[], number: number, used: string, hoursAgo: number) => {
  await pressed(page, on);
  for (let k = 0; k < 5; k += 1) {
    const now = Number(await page.locator('output').textContent());
    if (now === number) break;
    await page.getByRole('button', { name: now < number ? 'One coat more' : 'One coat less' }).click();
  }
  await page.getByLabel('Product used, gal').fill(used);
  const at = await page.evaluate((ago) => {
    const when = new Date(Date.now() - ago * 3_600_000);
    return new Intl.DateTimeFormat('sv-SE', {
      timeZone: 'America/New_York',
      dateStyle: 'short',
      timeStyle: 'short',
    })
      .format(when)
      .replace(' ', 'T');
  }, hoursAgo);
  await page.getByLabel('When it was done').fill(at);
  await page.getByRole('button', { name: `Keep coat ${number}` }).click();
  await expect(page.getByLabel('Product used, gal')).toHaveValue('');
};

test('a liquid shower: walls pass, the lower 18 in fail on the bucket though every look was sound; a second coat, a cold night, and the release only after', async ({
  browser,
}) => {
  // Two and a half days in a cellar without a signal: the tablet's clock is moved on, and is right when it sends.
  const { context, page } = await usedTablet(browser, 'ines', { hoursBehind: 63 });
  await context.setOffline(true);
  const name = `Coated ${Date.now()}`;
  await page.getByRole('link', { name: 'New shower' }).click();
  await page.getByLabel('Name on site').fill(name);
  await page.getByLabel('Job').fill('Test house');
  await page.getByRole('tab', { name: 'Method' }).click();
  await page.getByLabel(/^Method, /).selectOption({ label: 'Liquid-applied membrane' });
  await page.getByLabel('Inspection begins at').selectOption('membrane');
  await page.getByRole('button', { name: 'Make this shower' }).click();
  await expect(page.getByRole('heading', { name })).toBeVisible();
  const url = page.url().split('?')[0]!;

  // The label first: its figures are the limits.
  await stage(page, 'Membrane');
  await page.getByRole('button', { name: 'Kit' }).click();
  const kit = page.getByRole('dialog');
  await expect(kit.getByRole('button', { name: 'There' }).first()).toBeVisible();
  for (const there of await kit.getByRole('button', { name: 'There' }).all()) await there.click();
  await kit.getByRole('button', { name: /^Film A/ }).click();
  await kit.getByRole('button', { name: /^(Keep|The kit is complete)/ }).click();
  await expect(kit).toHaveCount(0);

  // Every look is sound; only the film is missing.
  await finishStage(page, 'Membrane', '2', /Film by zone|Nothing read of the film|coats/);
  await stage(page, 'Membrane');
  await expect(page.locator('aside [data-element]')).toHaveCount(1);
  await page.locator('aside [data-element]').click();
  const batch = page.getByTestId('figure').filter({ hasText: 'batch' });
  await batch.getByRole('textbox').fill('Batch 7');
  await batch.getByRole('button', { name: 'Keep' }).click();
  await expect(page.getByRole('complementary')).toContainText('Product and batch written down: sound');
  await page.keyboard.press('Escape');
  await page.getByRole('link', { name: 'Film by zone' }).click();

  // Bad input is named and nothing of it is kept.
  await page.getByRole('button', { name: 'Keep coat 1' }).click();
  await expect(page.getByRole('alert')).toContainText('Write how much went on');
  await page.getByLabel('Product used, gal').fill('2');
  await page.getByLabel('Water added to it, gal').fill('3');
  await page.getByRole('button', { name: 'Keep coat 1' }).click();
  await expect(page.getByRole('alert')).toContainText('More water than product');
  await page.getByLabel('Water added to it, gal').fill('');

  const area = async (zone: string) =>
    Number(/([\d.]+) sq ft/.exec((await page.getByTestId(`zone-${zone}`).textContent()) ?? '')![1]);
  // 24 mil dry at 55 % solids and 5 % on the roller: gallons for an area, half of it a coat.
  const gallons = (sqFt: number, dryMil: number) => ((sqFt * dryMil) / 1604.17 / 0.55 / 0.95).toFixed(3);
  const [walls, floor, curb, low] = [
    await area('walls'),
    await area('floor'),
    await area('curb'),
    await area('lower-walls'),
  ];
  for (const [k, hoursAgo] of [
    [1, 30],
    [2, 24],
  ] as const) {
    await coat(page, ['walls'], k, gallons(walls, 12), hoursAgo);
    await coat(page, ['floor', 'curb'], k, gallons(floor + curb, 12), hoursAgo);
  }
  await coat(page, ['lower walls'], 1, gallons(low, 8), 30);
  await page.getByTestId('zone-lower-walls').click();
  const verdict = page.getByTestId('film-verdict');
  await expect(verdict).toContainText('Hold: lower walls: 1 of 2 coats. 8 mil dry on the mean, needs 20 mil;');
  await expect(verdict).toContainText('of product is missing');
  await page.getByTestId('zone-walls').click();
  await expect(page.getByTestId('zone-words')).toContainText('24 mil dry on the mean');
  // The gauge says an interval; above its last tooth it says nothing.
  await page.getByRole('tab', { name: 'Wet gauge' }).click();
  await page.getByRole('button', { name: '60', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('above the gauge');
  await page.getByRole('button', { name: '22', exact: true }).click();
  await expect(page.getByTestId('film-log')).toContainText('22 mil to 24 mil wet');
  // A bucket says how much, not where: every zone is gauged too, in each of its coats.
  const words = page.getByTestId('zone-words');
  for (const zone of ['walls', 'floor', 'curb']) {
    const here = page.getByTestId(`zone-${zone}`);
    await here.click();
    if (zone !== 'walls') await page.getByRole('button', { name: '24', exact: true }).click();
    // After a reading the gauge goes on to the next zone that nobody read.
    await here.click();
    await expect(words).toContainText('Read the wet gauge in each coat');
    const ofCoat = page.getByRole('radiogroup', { name: 'Read in coat' });
    await ofCoat.getByRole('radio', { name: '1', exact: true }).click();
    await page.getByRole('button', { name: '24', exact: true }).click();
    await here.click();
    await expect(words).not.toContainText('Read the wet gauge');
  }
  await page.getByTestId('zone-lower-walls').click();
  await page.getByRole('button', { name: '24', exact: true }).click();
  await page.getByTestId('zone-walls').click();
  await sound(page);
  await page.getByRole('link', { name: 'Shower', exact: true }).click();
  await expect(page.getByRole('button', { name: /^Hold: 1 thing missing/ })).toBeVisible();

  // A second coat on the lower walls, too soon at first.
  await visit(page, `${url}/film`);
  await page.getByTestId('zone-lower-walls').click();
  await page.getByLabel('Product used, gal').fill(gallons(low, 15));
  await expect(page.getByTestId('coat-makes')).toContainText('15 mil dry');
  await coat(page, ['lower walls'], 2, gallons(low, 15), 20);
  await expect(verdict).toContainText('Read the wet gauge in each coat');
  await page.getByRole('tab', { name: 'Wet gauge' }).click();
  await page.getByRole('button', { name: '24', exact: true }).click();
  await expect(verdict).toHaveText('The film holds in every zone.');
  await visit(page, `${url}?stage=membrane`);
  await page.getByRole('button', { name: 'Release: Membrane' }).click();
  await finishStage(page, 'Drain tie-in', '2');
  await page.getByRole('button', { name: 'Release: Drain tie-in' }).click();
  // Written down before the clock moves: the wait runs from it.
  await expect(page.getByText('This stage is released.')).toBeVisible();

  // The label says 14 h. In the morning it would be over; the logger of the night says otherwise.
  const startMs = await page.evaluate(() => Date.now());
  await page.clock.fastForward(15 * HOUR_MS);
  await finishStage(page, 'Cure', '2');
  await expect(page.getByRole('button', { name: 'Release: Cure' })).toBeEnabled();
  await visit(page, `${url}/cure`);
  const ready = page.getByTestId('cure-ready');
  await expect(ready).toContainText('over since');
  const sheet = page.getByRole('dialog');
  const choose = async (fromMs: number, hours: number, airC: number, humidity: number) => {
    const rows = Array.from({ length: hours * 6 + 1 }, (_, k) => {
      const at = new Date(fromMs + k * 10 * 60_000).toISOString();
      return `${at},${(airC + 2 * Math.cos(k / 30)).toFixed(1)},${(humidity + 3 * Math.sin(k / 9)).toFixed(1)}`;
    });
    const buffer = Buffer.from(`Date time,Temperature,Humidity\n${rows.join('\n')}\n`);
    await sheet.locator('input[type=file]').first().setInputFiles({ name: 'air.csv', mimeType: 'text/csv', buffer });
    return rows.length;
  };
  const takeIn = async (count: number) => {
    await expect(sheet.getByTestId('climate-preview')).toContainText(`${count} readings`);
    await sheet.getByRole('radio', { name: '°C' }).click();
    await sheet.getByRole('button', { name: `Take in ${count} readings` }).click();
    await expect(sheet).toHaveCount(0);
  };
  await page.getByRole('button', { name: 'Take in a logger’s file of the air' }).click();
  await choose(startMs, 15, 92, 80);
  await expect(sheet.getByRole('alert')).toContainText('on site? If it was read in °F it is');
  await takeIn(await choose(startMs, 15, 9, 80));
  await expect(ready).toContainText(/ready \w+ \d+ \w+, \d\d:\d\d/);
  await expect(ready).toContainText('The damp air adds');
  await expect(ready).toContainText('Heated to');
  await sound(page);
  await visit(page, `${url}?stage=cure`);
  await expect(page.getByRole('button', { name: /^Hold: 1 thing missing/ })).toBeDisabled();

  // Warm dry air since then, two days on: now it may be released.
  await page.clock.fastForward(48 * HOUR_MS);
  await visit(page, `${url}/cure`);
  await page.getByLabel('Air, °F').first().fill('95');
  await page.getByLabel('Humidity, %').first().fill('130');
  await page.getByRole('button', { name: 'Keep the reading' }).click();
  await expect(page.getByRole('alert')).toContainText('between 0 and 100');
  await page.getByLabel('Humidity, %').first().fill('35');
  await page.getByLabel('Air, °F').first().fill('95 C');
  await page.getByRole('button', { name: 'Keep the reading' }).click();
  await expect(page.getByRole('alert')).toContainText('95 °C on site?');
  await page.getByLabel('Air, °F').first().fill('77');
  await page.getByRole('button', { name: 'Keep the reading' }).click();
  // Two days without a reading count as the worse end of the gap; the logger's own two days do not.
  await expect(ready).toContainText('had no reading near');
  await page.getByRole('button', { name: 'Take in a logger’s file of the air' }).click();
  await takeIn(await choose(startMs + 15 * HOUR_MS, 48, 25, 40));
  await expect(ready).toContainText('over since');
  await visit(page, `${url}?stage=cure`);
  await page.getByRole('button', { name: 'Release: Cure' }).click();
  await expect(page.getByText(/released by/i)).toBeVisible();

  // A stranger reads it in the record.
  await context.setOffline(false);
  await page.reload();
  await expect(page.getByTestId('sync')).toHaveText(/All entries sent/);
  const id = url.split('/').at(-1);
  const record = await (await page.request.get(`/api/showers/${id}/record.json`)).json();
  const low2 = record.films.find((f: { zone: string }) => f.zone === 'lower-walls');
  expect(low2).toMatchObject({ coats: 2, verdict: 'pass', missingL: 0 });
  expect(record.cures.find((c: { check: string }) => c.check === 'membrane-cure')).toMatchObject({ decides: 'damp' });
  expect(record.air.readings).toBeGreaterThan(300);
  const pdf = await (await page.request.get(`/api/showers/${id}/record.pdf`)).body();
  const text = execFileSync('pdftotext', ['-', '-'], { input: pdf }).toString().replace(/\s+/g, ' ');
  expect(text).toMatch(/lower walls .*2 of 2 coats/);
  expect(text).toContain('the damp made it longer');
});

test('layers of a corner show 3 against 4, right and wrong are drawn, materials come from the drawing, places are drawn at random', async ({
  tablet: page,
}) => {
  await page.getByText('Guest bath').first().click();
  await expect(page.getByRole('heading', { name: /Guest bath/ })).toBeVisible();
  const url = page.url().split('?')[0]!;
  await visit(page, `${url}?stage=membrane`);
  const sheet = page.getByRole('dialog');
  await open(page, /^Corner: floor, wall/);
  await page.getByRole('button', { name: 'Layers here' }).click();
  await expect(sheet.getByTestId('stack-stopped-short')).toContainText('3 layers');
  await expect(sheet.getByTestId('stack-run-through')).toContainText('4 layers');
  await expect(sheet.getByTestId('hump')).toContainText('mortar under the tile');
  await sheet.getByLabel('Notch under the floor tile').fill('x');
  await expect(sheet.getByRole('alert')).toContainText('Notch under the floor tile can’t be read');
  await sound(page);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Right and wrong' }).click();
  await expect(sheet.getByTestId('detail-right')).toContainText('each band laps it by 2 in');
  await expect(sheet.getByTestId('detail-wrong')).toHaveCount(3);
  await sound(page);
  await page.keyboard.press('Escape');
  await expect(sheet).toHaveCount(0);
  // Escape closed the sheet alone; the corner is still chosen.
  await page.getByRole('button', { name: 'Stage', exact: true }).click();

  await page.getByRole('button', { name: 'Random places' }).click();
  await expect(sheet.getByTestId('random-says')).toContainText('59 places are drawn');
  const first = await sheet.locator('.text-xl').last().textContent();
  await sheet.getByLabel('Value here').fill('2 1/8');
  await sheet.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(sheet.getByTestId('random-says')).toContainText(
    '1 of 59 drawn places read, none short: 5 % sure that at most 5 % of the places of this check',
  );
  expect(first).not.toBeNull();
  await sheet.getByLabel('Value here').fill('1 1/2');
  await sheet.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(sheet.getByTestId('random-says')).toContainText('1 of 2 drawn places are short');
  await sound(page);
  await page.keyboard.press('Escape');

  await page.getByRole('link', { name: 'Materials' }).click();
  const table = page.getByTestId('take-off');
  await expect(table).toContainText('Band, 5 in');
  await expect(page.getByTestId('cut-plan')).toContainText('pieces from 1 roll');
  // Whoever cuts knows what each piece is for, and the longest is cut first.
  const pieces = page.getByTestId('cut-pieces').getByRole('listitem');
  await expect(pieces.filter({ hasText: 'Foot of wall A' })).toHaveCount(1);
  const count = Number(/(\d+) pieces/.exec((await page.getByTestId('cut-plan').textContent())!)![1]);
  await expect(pieces).toHaveCount(count);
  await page.getByLabel('Used: Band, 5 in').fill('six');
  await page.getByRole('button', { name: 'Keep what was used' }).click();
  await expect(page.getByRole('alert')).toContainText('Band, 5 in: what was used can’t be read');
  await page.getByLabel('Used: Band, 5 in').fill('10');
  await expect(table).toContainText('far less');
  await page.getByRole('button', { name: 'Keep what was used' }).click();
  await expect(page.getByLabel('Used: Band, 5 in')).toHaveValue('');
  await expect(table).toContainText('far less');
  await sound(page);
  await page.getByRole('button', { name: /^All \d+ of Wharf Terrace/ }).click();
  await expect(table).toContainText('Liquid membrane');
});
