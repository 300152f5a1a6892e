import { type Browser, type Locator, type Page, test } from '@playwright/test';
import { expect, somePicture, usedTablet } from './acting';
import { tightLogger } from './waterActing';

/** What a person does on a tablet: taps of a finger and keys of what is typed, counted by stage. */
class Hand {
  private readonly counts = new Map<string, { taps: number; keys: number }>();
  private at = 'opening';
  /** `tellsTheRest` says of what is alike that it is, once measured; else every reading is told by itself. */
  constructor(readonly tellsTheRest: boolean) {}
  /** From here on it is counted for another stage. */
  begins(stage: string): void {
    this.at = stage;
  }
  private add(taps: number, keys: number): void {
    const now = this.counts.get(this.at) ?? { taps: 0, keys: 0 };
    this.counts.set(this.at, { taps: now.taps + taps, keys: now.keys + keys });
  }
  async tap(target: Locator): Promise<void> {
    await target.tap();
    this.add(1, 0);
  }
  async type(field: Locator, text: string): Promise<void> {
    await this.tap(field);
    await field.pressSequentially(text);
    this.add(0, text.length);
  }
  /** The key that keeps what was typed. */
  async enter(page: Page): Promise<void> {
    await page.keyboard.press('Enter');
    this.add(0, 1);
  }
  /** A file was chosen: one tap on its name. */
  chose(): void {
    this.add(1, 0);
  }
  of(stage: string): { taps: number; keys: number } {
    return this.counts.get(stage) ?? { taps: 0, keys: 0 };
  }
  get all(): { taps: number; keys: number } {
    const all = [...this.counts.values()];
    return { taps: all.reduce((n, c) => n + c.taps, 0), keys: all.reduce((n, c) => n + c.keys, 0) };
  }
  /** The counts as a table. */
  told(): string {
    const rows = [...this.counts].map(([stage, c]) => `${stage.padEnd(32)} ${c.taps} taps, ${c.keys} keys`);
    return [...rows, `${'all'.padEnd(32)} ${this.all.taps} taps, ${this.all.keys} keys`].join('\n');
  }
}

/** What a shower is made with. */
interface Made {
  /** The method by its name on the form. */
  method: string;
  /** Fields of the form beside it, by their labels. */
  beginsAt?: string;
  /** What is alike on one seam is told with one tap. */
  tellsTheRest?: boolean;
}

/** The ordinary shower: an alcove of 60 x 36 with a niche and a corner bench. */
async function makeOrdinary(page: Page, { method, beginsAt }: Made): Promise<string> {
  const name = `Taps ${Date.now()}`;
  await page.getByRole('link', { name: 'New shower' }).click();
  await page.getByLabel('Name on site').fill(name);
  await page.getByLabel('Job').fill('Test house');
  await page.getByRole('button', { name: 'Drain in the middle' }).click();
  await page.getByRole('tab', { name: /Niches/ }).click();
  await page.getByRole('button', { name: 'Add a niche' }).click();
  await page.getByRole('button', { name: 'Add a bench' }).click();
  await page.getByRole('tab', { name: 'Method' }).click();
  await page.getByLabel(/^Method, /).selectOption({ label: method });
  if (beginsAt) await page.getByLabel('Inspection begins at').selectOption({ label: beginsAt });
  await expect(page.getByRole('alert')).toHaveCount(0);
  await page.getByRole('button', { name: 'Make this shower' }).click();
  await expect(page.getByRole('heading', { name })).toBeVisible();
  return name;
}

/** Answers one stop, everything sound: the first value that keeps the limit, a paper's name, one look. */
async function answer(page: Page, hand: Hand, walk: Locator, asks: string): Promise<void> {
  if (asks === 'look') {
    // What the next layer hides is answered by its picture: the key, and the camera's own.
    const camera = walk.locator('label.key-main');
    if ((await camera.count()) === 0) return hand.tap(page.getByTestId('walk-sound'));
    const choosing = page.waitForEvent('filechooser');
    await hand.tap(camera);
    await (await choosing).setFiles(await somePicture());
    hand.chose();
    return expect(walk.getByText('Keeping the picture…')).toHaveCount(0);
  }
  const rest = page.getByTestId('walk-rest');
  if (hand.tellsTheRest && (await rest.isVisible())) return hand.tap(rest);
  const around = walk.getByRole('group', { name: 'Values around the limit' });
  if ((await around.count()) > 0) return hand.tap(around.locator('button:not([aria-label*="outside"])').first());
  const before = walk.getByRole('button', { name: /^As before/ });
  if ((await before.count()) > 0) return hand.tap(before.first());
  await hand.type(walk.getByRole('textbox'), 'P-12');
  await hand.enter(page);
}

/** Walks from here to the end of a stage and releases it; `work` does what has a screen of its own. True behind the last. */
async function walkStage(page: Page, hand: Hand, work: (page: Page, hand: Hand) => Promise<void>): Promise<boolean> {
  const walk = page.getByTestId('walk');
  await expect(walk).toBeVisible();
  const left = page.getByTestId('walk-left').or(walk.getByRole('heading'));
  const stage = (await left.last().textContent())!.split(':')[0]!.trim();
  hand.begins(stage);
  for (let k = 0; k < 250; k += 1) {
    const asks = (await walk.getAttribute('data-asks'))!;
    if (asks === 'end') break;
    if (asks === 'work') await work(page, hand);
    else await answer(page, hand, walk, asks);
    // The keys' rest is over at once: it is the hand that is counted, and not its seconds.
    await page.clock.runFor(450);
    await expect(walk.locator('[aria-disabled=true]')).toHaveCount(0);
  }
  const release = walk.getByRole('button', { name: /^Release: / });
  await hand.tap(release);
  await page.clock.runFor(450);
  const finished = page.getByTestId('walk-finished');
  await expect(async () => {
    if (!(await finished.isVisible())) expect(await left.last().textContent()).not.toMatch(stage);
  }).toPass();
  await expect(walk.locator('[aria-disabled=true]')).toHaveCount(0);
  return finished.isVisible();
}

const HOUR_MS = 3_600_000;

/** The flood test by a logger with its pan: prepared, dry, a day and more of water, dry again. */
async function floodByLogger(page: Page, hand: Hand): Promise<void> {
  const key = (name: string | RegExp) => page.getByRole('button', { name, exact: true });
  await hand.tap(page.getByRole('link', { name: 'To the flood test' }));
  await expect(key('Dry everywhere')).toBeVisible();
  await hand.tap(key('All of it is done'));
  await hand.tap(key('Dry everywhere'));
  const logger = page.getByRole('radio', { name: 'Level logger' });
  if (!(await logger.isChecked())) await hand.tap(logger);
  await hand.tap(key('The water is in: start now'));
  await expect(key('Logger file')).toBeVisible();
  const startMs = await page.evaluate(() => Date.now());
  await page.clock.fastForward(27 * HOUR_MS);
  await hand.tap(key('Logger file'));
  const buffer = Buffer.from(tightLogger(startMs, 1, 26));
  await page.locator('input[type=file]').first().setInputFiles({ name: 'logger.csv', mimeType: 'text/csv', buffer });
  hand.chose();
  await hand.tap(page.getByRole('radio', { name: 'mm', exact: true }));
  await hand.tap(page.getByRole('button', { name: /^Take in \d+ readings/ }));
  await expect(page.getByTestId('flood-verdict')).toContainText('Tight');
  await hand.tap(key('End the test'));
  for (const place of await page.getByRole('dialog').getByRole('group').all())
    await hand.tap(place.getByRole('button', { name: 'Dry' }));
  await hand.tap(page.getByRole('button', { name: 'End the test: Tight' }));
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await hand.tap(page.getByRole('link', { name: 'Shower', exact: true }));
}

/** A film of two coats out of one bucket each, a wet gauge in every zone of both, and the hours between them. */
async function filmOfTwoCoats(page: Page, hand: Hand): Promise<void> {
  const key = (name: string | RegExp) => page.getByRole('button', { name, exact: true });
  const kit = key('Tick the kit: its label says how thick');
  if (await kit.isVisible()) {
    await hand.tap(kit);
    await hand.tap(key('All of it is there'));
    await hand.tap(page.getByRole('dialog').getByRole('button', { name: /^Film A/ }));
    await hand.tap(page.getByRole('dialog').getByRole('button', { name: /^The kit is complete/ }));
    await expect(page.getByRole('dialog')).toHaveCount(0);
  }
  await hand.tap(page.getByRole('link', { name: 'To the film' }));
  for (const coat of [1, 2]) {
    if (coat === 2) {
      await page.clock.fastForward(25 * HOUR_MS);
      await hand.tap(page.getByRole('tab', { name: 'A coat' }));
    }
    await hand.tap(key('Everywhere'));
    await hand.type(page.getByLabel('Product used, gal'), '1.66');
    await hand.tap(key(`Keep coat ${coat}`));
    await hand.tap(page.getByRole('tab', { name: 'Wet gauge' }));
    // Floor, lower walls, walls, curb, niche and bench: the gauge goes on to the next by itself.
    for (let zone = 1; zone <= 6; zone += 1) {
      const read = await page.getByTestId('film-log').getByRole('listitem').count();
      await hand.tap(key('22'));
      await expect(page.getByTestId('film-log').getByRole('listitem')).toHaveCount(read + 1);
    }
  }
  await expect(page.getByTestId('film-verdict')).not.toContainText('Nothing read');
  await hand.tap(page.getByRole('link', { name: 'Shower', exact: true }));
}

/** What has a screen of its own, by the key that leads to it. */
async function workOfItsOwn(page: Page, hand: Hand): Promise<void> {
  const to = (name: string) => page.getByTestId('walk').getByRole('link', { name });
  const untold = page.getByRole('button', { name: /^Say when it was done/ });
  // What is asked may still be changing after the tap before.
  const any = ['To the cure clock', 'To the film', 'To the flood test'].reduce(
    (found, name) => found.or(to(name)),
    untold,
  );
  await expect(any.first()).toBeVisible();
  if (await untold.isVisible()) {
    await hand.tap(untold);
    return hand.tap(page.getByRole('dialog').getByRole('button', { name: /^Done: / }));
  }
  // The walk goes on by itself once the wait is over.
  if (await to('To the cure clock').isVisible()) return page.clock.fastForward(25 * HOUR_MS);
  if (await to('To the film').isVisible()) return filmOfTwoCoats(page, hand);
  if (await to('To the flood test').isVisible()) return floodByLogger(page, hand);
  throw new Error(`nothing does ${await page.getByTestId('walk').textContent()}`);
}

/** A whole shower by touch, everything sound, from its first stage to its last; gives the counts. */
async function wholeShower(browser: Browser, made: Made): Promise<Hand> {
  // What takes days is walked through without a signal, and is right when it is sent.
  const { context, page } = await usedTablet(browser, 'ines', { hoursBehind: 150, hasTouch: true });
  await context.setOffline(true);
  await makeOrdinary(page, made);
  const hand = new Hand(made.tellsTheRest ?? false);
  await hand.tap(page.getByRole('button', { name: 'Walk it' }));
  for (let k = 0; k < 24; k += 1) {
    if (await walkStage(page, hand, workOfItsOwn)) break;
  }
  console.log(`${made.method}\n${hand.told()}`);
  await expect(page.getByRole('navigation', { name: 'Stages' })).not.toContainText(/open|missing|held/);
  await context.close();
  return hand;
}

test('an ordinary shower of bonded sheet, everything sound: at most 110 taps for the membrane, 220 taps and 30 keys in all', async ({
  browser,
}) => {
  const hand = await wholeShower(browser, { method: 'Cement-bonded sheet' });
  expect(hand.of('Membrane').taps).toBeLessThanOrEqual(110);
  expect(hand.all.taps).toBeLessThanOrEqual(220);
  expect(hand.all.keys).toBeLessThanOrEqual(30);
});

test('the same of sealant-jointed board: at most 190 taps @slow', async ({ browser }) => {
  const hand = await wholeShower(browser, { method: 'Sealant-jointed foam board', tellsTheRest: true });
  expect(hand.all.taps).toBeLessThanOrEqual(190);
});

test('the same of a liquid membrane: at most 200 taps @slow', async ({ browser }) => {
  const hand = await wholeShower(browser, { method: 'Liquid-applied membrane', tellsTheRest: true });
  expect(hand.all.taps).toBeLessThanOrEqual(200);
});
