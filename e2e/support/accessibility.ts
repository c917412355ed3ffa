import type { Page } from '@playwright/test';
import axe, { type AxeResults, type ElementContext, type RunOptions } from 'axe-core';

interface Wish {
  /** The part of the page that is looked at. */
  readonly only?: string | undefined;
  /** The rules that are looked for. */
  readonly rules?: string[];
}

type Checked = typeof globalThis & { axe?: { run(context: ElementContext, options: RunOptions): Promise<AxeResults> } };

/** What a page does wrong for people who cannot see, hear or point, in a line each. */
export async function violations(page: Page, { only, rules }: Wish = {}): Promise<readonly string[]> {
  if (await page.evaluate(() => (globalThis as Checked).axe === undefined)) await page.evaluate(axe.source);
  // Only the lines leave the page: all that was found takes seconds on its way.
  const found = await page.evaluate(
    async ([selector, names]) => {
      const results = await (globalThis as Checked).axe?.run(
        selector === undefined ? document : { include: [selector] },
        // No rule asks for the style sheets, and there are no frames: reading both would take a fifth of the time.
        {
          resultTypes: ['violations'],
          preload: false,
          iframes: false,
          ...(names ? { runOnly: { type: 'rule', values: names } } : {}),
        },
      );
      return results?.violations.map(
        ({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html.slice(0, 160)).join(' | ')}`,
      );
    },
    [only, rules] as const,
  );
  if (!found) throw new Error('the page could not be checked');
  return found;
}
