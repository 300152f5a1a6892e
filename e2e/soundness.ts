import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';

/**
 * The page keeps WCAG 2.2 AA, as far as a program can tell. `colours`: only what another theme can change, where the same
 * page was looked at in full in the first one.
 */
export async function accessible(page: Page, only: 'all' | 'colours' = 'all'): Promise<void> {
  const builder = new AxeBuilder({ page });
  const asked =
    only === 'colours'
      ? builder.withRules(['color-contrast', 'link-in-text-block'])
      : builder.withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa']);
  const { violations } = await asked.analyze();
  expect(violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join(', ')}`)).toEqual([]);
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

/** Whatever is tapped or typed into, with its size; half a pixel is left for rounding. */
export async function smallTargets(page: Page): Promise<string[]> {
  return page.evaluate(() =>
    [
      ...document.querySelectorAll(
        'button, a.key, label.key, input:not([type=file]), select, textarea, aside li button',
      ),
    ]
      .map((e) => ({
        text: e.textContent || e.getAttribute('aria-label') || e.tagName,
        box: e.getBoundingClientRect(),
      }))
      .filter(({ box }) => box.width > 0 && (box.height < 47.5 || box.width < 47.5))
      .map(({ text, box }) => `${text} ${box.width}x${box.height}`),
  );
}
