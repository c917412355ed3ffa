/**
 * How often a slow property is tried: as said in the whole suite, a quarter of it where only a quick look is asked for
 * (`npm run check`, by way of jest.config.mjs).
 *
 * @param whole  rounds in the whole suite
 */
export const rounds = (whole: number): number =>
  (globalThis as { quick?: boolean }).quick === true ? Math.ceil(whole / 4) : whole;
