import { expect, test } from './acting';

/** What a homeowner's page may cost in script, bytes as they are sent [the firm's own budget]. */
const SCRIPT_BYTES = 90_000;

test('a homeowner’s link opens the record in both languages, with no more script than its budget', async ({
  office: page,
  browser,
  baseURL,
}) => {
  await page.goto('/office/links');
  await page.getByRole('radio', { name: 'One record, to read' }).click();
  await page.getByLabel('Shower').selectOption({ index: 1 });
  await page.getByLabel('For whom (this stands in the record)').fill(`Homeowner ${Date.now()}`);
  await page.getByRole('button', { name: 'Make the link' }).click();
  const address = await page.getByLabel('The link').inputValue();
  const { pathname } = new URL(address);
  expect(pathname).toMatch(/^\/r\//);

  for (const [locale, title, pdf] of [
    ['en-US', /^Record of the shower /, 'The whole record as PDF'],
    ['es-MX', /^Acta de la ducha /, /PDF/],
  ] as const) {
    const context = await browser.newContext({ baseURL: baseURL!, locale, viewport: { width: 390, height: 844 } });
    const phone = await context.newPage();
    const network = await context.newCDPSession(phone);
    await network.send('Network.enable');
    const scripts = new Set<string>();
    let bytes = 0;
    network.on('Network.responseReceived', ({ requestId, type }) => type === 'Script' && scripts.add(requestId));
    network.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
      if (scripts.has(requestId)) bytes += encodedDataLength;
    });
    await phone.goto(pathname);
    await expect(phone.getByRole('heading', { level: 1 })).toHaveText(title);
    await expect(phone.getByRole('link', { name: pdf })).toBeVisible();
    await expect(phone.locator('html')).toHaveAttribute('lang', locale.slice(0, 2));
    expect(bytes).toBeGreaterThan(10_000);
    expect(bytes).toBeLessThanOrEqual(SCRIPT_BYTES);
    const wide = await phone.evaluate(() => document.documentElement.scrollWidth > window.innerWidth);
    expect(wide).toBe(false);
    await context.close();
  }
});
