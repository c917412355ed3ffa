import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';

interface Wish {
  /** The part of the page that is looked at. */
  readonly only?: string | undefined;
  /** The rules that are looked for. */
  readonly rules?: string[];
}

/** What a page does wrong for people who cannot see, hear or point, in a line each. */
export async function violations(page: Page, { only, rules }: Wish = {}): Promise<readonly string[]> {
  let axe = new AxeBuilder({ page });
  if (only !== undefined) axe = axe.include(only);
  if (rules) axe = axe.withRules(rules);
  const found = await axe.analyze();
  return found.violations.map(({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html.slice(0, 160)).join(' | ')}`);
}
