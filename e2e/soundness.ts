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

/**
 * Text that can't be read: cut off by what holds it, standing out of its key, or lying over other text. What was scrolled out of a list
 * is not looked at; while a sheet is open only the sheet is.
 */
export async function unreadable(page: Page): Promise<string[]> {
  return page.evaluate(() => {
    const root = [...document.querySelectorAll<HTMLElement>('[role=dialog]')].at(-1) ?? document.body;
    const faults: string[] = [];
    /** What is left of a box inside what scrolls or cuts around it; null for nothing. */
    type Box = { left: number; top: number; right: number; bottom: number };
    const within = (a: Box, b: Box): Box | null => {
      const box = {
        left: Math.max(a.left, b.left),
        top: Math.max(a.top, b.top),
        right: Math.min(a.right, b.right),
        bottom: Math.min(a.bottom, b.bottom),
      };
      return box.right - box.left > 1 && box.bottom - box.top > 1 ? box : null;
    };
    const shown: { box: Box; text: string; of: Element }[] = [];
    const texts = document.createTreeWalker(root, NodeFilter.SHOW_TEXT);
    for (let node = texts.nextNode(); node; node = texts.nextNode()) {
      const text = (node.textContent ?? '').trim();
      const of = node.parentElement;
      if (text === '' || !of || of.closest('option, script, style, .sr-only, title')) continue;
      if (!of.checkVisibility({ opacityProperty: true, visibilityProperty: true })) continue;
      const range = document.createRange();
      range.selectNodeContents(node);
      for (const rect of range.getClientRects()) {
        if (rect.width < 2 || rect.height < 2) continue;
        let box: Box | null = { left: rect.left, top: rect.top, right: rect.right, bottom: rect.bottom };
        const key = of.closest('button, a.key, label.key');
        const held = key?.getBoundingClientRect();
        if (
          held &&
          (rect.left < held.left - 1 ||
            rect.right > held.right + 1 ||
            rect.top < held.top - 1 ||
            rect.bottom > held.bottom + 1)
        )
          faults.push(`out of its key: ${text.slice(0, 50)}`);
        for (let at: Element | null = of; at && box; at = at.parentElement) {
          const { overflowX, overflowY } = getComputedStyle(at);
          if (overflowX === 'visible' && overflowY === 'visible') continue;
          const window = at.getBoundingClientRect();
          const cuts = (how: string) => how === 'hidden' || how === 'clip';
          const wide = cuts(overflowX) && (rect.right > window.right + 1.5 || rect.left < window.left - 1.5);
          const high = cuts(overflowY) && (rect.bottom > window.bottom + 1.5 || rect.top < window.top - 1.5);
          // The page itself is what is scrolled.
          if ((wide || high) && at !== document.body && at !== document.documentElement)
            faults.push(`cut off: ${text.slice(0, 50)}`);
          box = within(box, window);
        }
        if (box) shown.push({ box, text, of });
      }
    }
    for (const [k, a] of shown.entries())
      for (const b of shown.slice(k + 1)) {
        if (a.of === b.of || a.of.contains(b.of) || b.of.contains(a.of)) continue;
        const both = within(a.box, b.box);
        if (!both || both.right - both.left < 3 || both.bottom - both.top < 4) continue;
        // What lies under something else is covered, and is not drawn over.
        const [x, y] = [(both.left + both.right) / 2, (both.top + both.bottom) / 2];
        const stack = document.elementsFromPoint(x, y);
        const seen = (of: Element) => {
          const top = stack.findIndex((e) => e === of || of.contains(e));
          return (
            top >= 0 &&
            stack
              .slice(0, top)
              .every((e) => e.contains(of) || getComputedStyle(e).backgroundColor === 'rgba(0, 0, 0, 0)')
          );
        };
        const reached = x >= 0 && y >= 0 && x < innerWidth && y < innerHeight;
        if (reached && (!seen(a.of) || !seen(b.of))) continue;
        if (!reached && getComputedStyle(a.of).position !== 'static') continue;
        faults.push(`one over the other: ${a.text.slice(0, 40)} / ${b.text.slice(0, 40)}`);
      }
    const wide = document.documentElement.scrollWidth - window.innerWidth;
    if (wide > 0) faults.push(`${wide} px wider than the screen`);
    return [...new Set(faults)];
  });
}
