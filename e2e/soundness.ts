import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { expect, type Page } from '@playwright/test';
import type { AxeResults, RunOnly, RunOptions } from 'axe-core';

const AXE = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');
const WCAG22AA: RunOnly = {
  type: 'tag',
  values: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'],
};
/** What another theme can change, where the same page was looked at in full in the first one. */
const COLOURS: RunOnly = { type: 'rule', values: ['color-contrast', 'link-in-text-block'] };

/**
 * The page keeps WCAG 2.2 AA, as far as a program can tell. Run inside the page itself, and only what breaks a rule comes
 * back: a list of all that is right costs several times as much as the looking.
 */
export async function accessible(page: Page, only: 'all' | 'colours' = 'all'): Promise<void> {
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(AXE);
  const broken = await page.evaluate(
    async (runOnly) => {
      const { axe } = window as unknown as { axe: { run: (node: Node, how: RunOptions) => Promise<AxeResults> } };
      const { violations, passes } = await axe.run(document, { runOnly, resultTypes: ['violations'], preload: false });
      // A run that found nothing to look at at all would pass in silence.
      if (violations.length + passes.length === 0) return ['axe looked at nothing'];
      return violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join(', ')}`);
    },
    only === 'colours' ? COLOURS : WCAG22AA,
  );
  expect(broken).toEqual([]);
}

/** The colours of the same page in the other theme; the page is left as it was. */
export async function accessibleInTheDark(page: Page): Promise<void> {
  const theme = (to: string) =>
    page.evaluate((next) => {
      const { dataset } = document.documentElement;
      const was = dataset.theme ?? '';
      dataset.theme = next;
      return was;
    }, to);
  const was = await theme('dark');
  await accessible(page, 'colours');
  await theme(was);
}

/** Nothing has to be scrolled to see the whole page. */
export async function fits(page: Page): Promise<void> {
  const [content, view] = await page.evaluate(() => [document.documentElement.scrollHeight, window.innerHeight]);
  expect(content).toBeLessThanOrEqual(view);
}

/** The page is no wider than the screen. */
export async function fitsWidth(page: Page): Promise<void> {
  const [content, view] = await page.evaluate(() => [document.documentElement.scrollWidth, window.innerWidth]);
  expect(content).toBeLessThanOrEqual(view);
}

/** Whatever is tapped or typed into, with its size; a box to tick is tapped by its label too. Half a pixel is left for rounding. */
export async function smallTargets(page: Page): Promise<string[]> {
  return page.evaluate(() =>
    [
      ...document.querySelectorAll(
        'button, a.key, label.key, input:not([type=file]), select, textarea, aside li button',
      ),
    ]
      .map((e) => ({
        text: e.textContent || e.getAttribute('aria-label') || e.tagName,
        box: (e.matches('[type=checkbox], [type=radio]') ? (e.closest('label') ?? e) : e).getBoundingClientRect(),
      }))
      .filter(({ box }) => box.width > 0 && (box.height < 47.5 || box.width < 47.5))
      .map(({ text, box }) => `${text} ${box.width}x${box.height}`),
  );
}
