import { expect, openFendro, test, withoutGuide } from './support/test';

test.use({ serviceWorkers: 'allow', plainSounds: null });

test('after one visit everything works without a network, sounds included', async ({ page, context }) => {
  test.setTimeout(120_000);
  await withoutGuide(page);
  await openFendro(page);
  await page.evaluate(async () => {
    await navigator.serviceWorker.ready;
  });
  // The sounds are fetched ahead, all ten families, and what listens to recordings.
  await expect
    .poll(
      () =>
        page.evaluate(async () => {
          const names = await caches.keys();
          const lists = await Promise.all(
            names.map(async (name) => (await (await caches.open(name)).keys()).map(({ url }) => url)),
          );
          return lists.flat().filter((url) => /\.sf3$|listening\/weights\.bin$/.test(url)).length;
        }),
      { timeout: 60_000 },
    )
    .toBe(11);
  await context.setOffline(true);
  await page.close();
  // A page that was not there before, without the recorder, which needs the network.
  const again = await context.newPage();
  await again.goto('/');
  await expect(again.getByLabel('Song title')).toHaveValue('Barometer Falling');
  await again.getByRole('button', { name: 'Mix', exact: true }).click();
  await again.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(again.getByRole('button', { name: 'Stop' })).toBeVisible({ timeout: 30_000 });
  await expect
    .poll(
      async () =>
        Number(await again.getByRole('meter', { name: 'Sounding level of Guitar' }).getAttribute('aria-valuenow')),
      { timeout: 20_000 },
    )
    .toBeGreaterThan(5);
});
