import type { Page } from '@playwright/test';

/** The chords of the section in view, each with its bar and beat: “3.1 Am”. */
export const symbols = async (page: Page): Promise<string[]> => {
  const labels = await page
    .getByRole('region', { name: 'Sheet' })
    .getByRole('button', { name: /^Bar \d+ beat \d/ })
    .evaluateAll((cells) => cells.map((cell) => cell.getAttribute('aria-label') ?? ''));
  return labels
    .filter((label) => !label.endsWith('empty'))
    .map((label) =>
      label.replace(
        /^Bar (\d+) beat (\d)(?: and (\d+) ticks)?, /,
        (_, bar: string, beat: string, ticks?: string) => `${bar}.${beat}${ticks ? `+${ticks}` : ''} `,
      ),
    );
};
