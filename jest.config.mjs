// Jest runs the bundles that tools/specs makes of the specs; `npm run unit` does both.
const project = (name, more) => ({
  displayName: name,
  rootDir: '.',
  roots: [`<rootDir>/dist/specs/${name}`],
  testMatch: ['**/*.spec.js'],
  transform: {},
  setupFilesAfterEnv: ['<rootDir>/tools/specs/around-spec.cjs', '<rootDir>/tools/specs/quick-expect.cjs'],
  // npm run check: slow properties run a quarter of their rounds (core/testing/rounds.ts).
  globals: { quick: process.env.FENDRO_QUICK !== undefined },
  ...more,
});

/** @type {import('jest').Config} */
export default {
  maxWorkers: 2,
  // Specs share the CPU with browser tests and can run several times slower than alone.
  testTimeout: 30_000,
  projects: [
    project('core', { testEnvironment: '<rootDir>/tools/specs/node-environment.mjs' }),
    project('app', { testEnvironment: 'jsdom' }),
  ],
};
