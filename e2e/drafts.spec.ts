import { circleOnPicture, expect, makeShower, open, type Page, somePicture, stage, test } from './acting';

const key = (page: Page, name: string) => page.getByRole('button', { name, exact: true });

/** How many entries of the shower that is open lie on this tablet. */
const entries = (page: Page): Promise<number> =>
  page.evaluate(
    () =>
      new Promise<number>((told, failed) => {
        const shower = window.location.pathname.split('/')[2]!;
        const opening = indexedDB.open('careful-seam');
        opening.onerror = () => failed(opening.error);
        opening.onsuccess = () => {
          const counting = opening.result.transaction('entries').objectStore('entries').index('byShower').count(shower);
          counting.onsuccess = () => {
            opening.result.close();
            told(counting.result);
          };
        };
      }),
  );

/** Two taps of a finger on the middle of a key, one at once after the other, wherever the second lands. */
async function tapTwice(page: Page, what: import('@playwright/test').Locator): Promise<void> {
  await expect(what).toBeEnabled();
  await what.scrollIntoViewIfNeeded();
  const box = (await what.boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.click(x, y);
  await page.waitForTimeout(120);
  await page.mouse.click(x, y);
}

test('a defect that is being told, with its picture and mark, survives a palm on the map, Back, a reload and another address', async ({
  tablet: page,
}) => {
  const name = `Draft ${Date.now()}`;
  await makeShower(page, name, { width: '24', depth: '24', beginsAt: 'membrane' });
  await stage(page, 'Membrane');
  await open(page, 'Foot of wall B');
  await key(page, 'Defect').first().click();
  const sheet = page.getByRole('dialog');
  await page.getByLabel('What is wrong').fill('Fold along the foot, about');
  await page
    .locator('input[type=file]')
    .first()
    .setInputFiles(await somePicture('fold.jpg'));
  await circleOnPicture(page);

  // A palm on the dimmed map closes nothing.
  await page.mouse.click(400, 300);
  await expect(sheet).toBeVisible();
  // Back closes the sheet, and the card stays.
  const before = page.url();
  await page.goBack();
  await expect(sheet).toHaveCount(0);
  expect(page.url()).toBe(before);
  await expect(page.getByTestId('go-on')).toContainText('a defect');

  await page.reload();
  await page.getByTestId('go-on').click();
  await expect(sheet.getByTestId('draft-line')).toBeVisible();
  await expect(page.getByLabel('What is wrong')).toHaveValue('Fold along the foot, about');
  await expect(page.getByLabel('1 mark on the picture')).toBeVisible();
  await page.getByLabel('What is wrong').fill('Fold along the foot, about 6 in long');

  // The page goes while the sheet is open, and comes back with no sheet: the day says that something is not kept.
  await page.goto('/');
  await page.getByTestId('unkept').getByRole('link', { name }).click();
  await page.getByTestId('go-on').click();
  await expect(page.getByLabel('What is wrong')).toHaveValue('Fold along the foot, about 6 in long');
  const count = await entries(page);
  await key(page, 'Keep this defect').click();
  await expect(sheet).toHaveCount(0);
  await expect(page.getByTestId('go-on')).toHaveCount(0);
  expect(await entries(page)).toBe(count + 1);

  // What is begun anew leaves nothing behind.
  await stage(page, 'Membrane');
  await open(page, 'Foot of wall A');
  await key(page, 'Defect').first().click();
  await page.getByLabel('What is wrong').fill('No, the other wall');
  await key(page, 'Close').click();
  await page.getByTestId('go-on').click();
  await key(page, 'Begin anew').click();
  await expect(page.getByLabel('What is wrong')).toHaveValue('');
  await key(page, 'Close').click();
  await expect(page.getByTestId('go-on')).toHaveCount(0);
});

test('a note that is half typed goes on from the shower, for a place and for a whole stage', async ({
  tablet: page,
}) => {
  await makeShower(page, `Note ${Date.now()}`, { width: '24', depth: '24', beginsAt: 'membrane' });
  await stage(page, 'Membrane');
  for (const place of ['Foot of wall B', null]) {
    if (place) await open(page, place);
    await key(page, 'Picture, note').first().click();
    await page.getByLabel('Words').fill(`Half a note, ${place}`);
    await key(page, 'Close').click();
    await page.keyboard.press('Escape');
    await page.getByTestId('go-on').click();
    await expect(page.getByLabel('Words')).toHaveValue(`Half a note, ${place}`);
    await key(page, 'Keep the note').click();
    await expect(page.getByRole('dialog')).toHaveCount(0);
    await expect(page.getByTestId('go-on')).toHaveCount(0);
  }
});

test('a new shower that is half typed waits on the day, and the draft of a rule in the office', async ({
  tablet: page,
  office,
}) => {
  await page.getByRole('link', { name: 'New shower' }).click();
  await page.getByLabel('Name on site').fill('Half typed');
  await page.getByLabel('Width', { exact: true }).fill('47');
  await page.goBack();
  await page.reload();
  await page.getByTestId('unkept').getByRole('link', { name: 'a shower’s form' }).click();
  await expect(page.getByLabel('Name on site')).toHaveValue('Half typed');
  await expect(page.getByLabel('Width', { exact: true })).toHaveValue('47');
  await key(page, 'Begin anew').click();
  await expect(page.getByLabel('Name on site')).toHaveValue('');
  await page.getByRole('link', { name: 'Day', exact: true }).click();
  await expect(page.getByTestId('unkept')).toHaveCount(0);

  await office.goto('/office/rules');
  const publish = office.getByRole('button', { name: /^(Publish|Nothing changed)/ });
  await expect(publish).toBeDisabled();
  await office.getByLabel('Words of lap', { exact: true }).fill('Another name of a check');
  await expect(publish).toBeEnabled();
  await office.goto('/');
  await office.getByTestId('unkept').getByRole('link', { name: 'the draft of the rules' }).click();
  await expect(publish).toBeEnabled();
  await key(office, 'Begin anew').click();
  await expect(publish).toBeDisabled();
});

test('two taps of a finger on a key that writes mean one thing: ten keys', async ({ tablet: page }) => {
  const name = `Two taps ${Date.now()}`;
  await makeShower(page, name, { width: '24', depth: '24', beginsAt: 'membrane' });
  let count = await entries(page);
  /** Exactly so many entries more than before, also a moment later. */
  const wrote = async (more: number, what: string) => {
    await expect.poll(() => entries(page), { message: what }).toBe(count + more);
    await page.waitForTimeout(600);
    count += more;
    expect(await entries(page), what).toBe(count);
  };
  await stage(page, 'Membrane');
  await tapTwice(page, key(page, 'Work on this stage is done'));
  await expect(page.getByRole('dialog')).toBeVisible();
  await tapTwice(page, page.getByRole('dialog').locator('[type=submit], .key-main').last());
  await wrote(1, 'work told');

  await open(page, 'Foot of wall B');
  await tapTwice(page, page.getByRole('button', { name: /^Sound(?!.*with a picture)/ }));
  await wrote(1, 'a look');
  await page.getByLabel('Value', { exact: true }).fill('2 1/4');
  await tapTwice(page, page.getByRole('button', { name: /^Keep 2 1\/4/ }));
  await wrote(1, 'a reading');
  await tapTwice(page, page.getByRole('group', { name: 'Values around the limit' }).getByRole('button').first());
  await wrote(1, 'a key of a value');
  await tapTwice(page, page.getByRole('button', { name: /^Take back/ }));
  await wrote(1, 'taken back');
  await tapTwice(page, key(page, "Can't see").first());
  await wrote(1, 'not seen');

  await key(page, 'Defect').first().click();
  await page.getByLabel('What is wrong').fill('Hole');
  await tapTwice(page, key(page, 'Keep this defect'));
  await wrote(1, 'a defect');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await key(page, 'Give it to a crew').first().click();
  await tapTwice(page, page.getByRole('dialog').getByRole('button', { name: 'Was redone' }));
  await page.getByLabel('What was done').fill('Patched');
  await tapTwice(page, key(page, 'It was redone'));
  await wrote(1, 'redone');
  await key(page, 'Ask a manager to accept').first().click();
  await page.getByLabel('Why it may be accepted').fill('Owner asked');
  await tapTwice(page, key(page, 'Ask a manager'));
  await wrote(1, 'asked');
  await page.keyboard.press('Escape');
  // A key that is held down means one thing, as one that is tapped.
  await open(page, 'Foot of wall A');
  const sound = page.getByRole('button', { name: /^Sound(?!.*with a picture)/ });
  await sound.focus();
  for (let k = 0; k < 6; k += 1) await page.keyboard.down('Enter');
  await page.keyboard.up('Enter');
  await wrote(1, 'a key that is held down');
});
