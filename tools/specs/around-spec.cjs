// Jest runs this in each bundle, before its specs.

/** Leaves nothing of one spec of a bundle to the next. */
globalThis.aroundSpec = () => {
  afterAll(() => {
    jest.restoreAllMocks();
    jest.useRealTimers();
  });
};
