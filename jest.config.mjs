const modules = [
  '@angular',
  '@ngrx',
  'rxjs',
  'd3',
  'd3-.*',
  'internmap',
  'delaunator',
  'robust-predicates',
  'fast-check',
  'pure-rand',
  'zod',
  'tonal',
  '@tonaljs',
  'midi-file',
  'fflate',
  'comlink',
];
const moduleNameMapper = { '^@fendro/core/(.*)$': '<rootDir>/core/$1' };

/** @type {import('jest').Config} */
export default {
  maxWorkers: 2,
  projects: [
    {
      displayName: 'core',
      rootDir: '.',
      testEnvironment: '<rootDir>/tools/jest-node-environment.mjs',
      testMatch: ['<rootDir>/core/**/*.spec.ts', '<rootDir>/server/**/*.spec.ts'],
      // npm run check: slow properties run a quarter of their rounds (core/testing/rounds.ts).
      globals: { quick: process.env.FENDRO_QUICK !== undefined },
      moduleNameMapper,
      transform: {
        '^.+\\.m?[jt]s$': [
          '@swc/jest',
          { swcrc: false, jsc: { target: 'es2022', parser: { syntax: 'typescript' } }, module: { type: 'commonjs' } },
        ],
      },
      transformIgnorePatterns: [`/node_modules/(?!(${modules.join('|')})/)`],
    },
    {
      displayName: 'app',
      rootDir: '.',
      preset: 'jest-preset-angular',
      testMatch: ['<rootDir>/app/**/*.spec.ts'],
      setupFilesAfterEnv: ['<rootDir>/app/src/test-setup.ts'],
      moduleNameMapper: {
        ...moduleNameMapper,
        '^.*/create-draft-worker$': '<rootDir>/app/src/work/create-draft-worker.mock.ts',
        '^.*/create-import-worker$': '<rootDir>/app/src/work/create-import-worker.mock.ts',
        '^.*/create-files-worker$': '<rootDir>/app/src/work/create-files-worker.mock.ts',
        '^.*/create-decode-worker$': '<rootDir>/app/src/work/create-decode-worker.mock.ts',
        '^.*/create-sound-files-worker$': '<rootDir>/app/src/sound/rendered/create-sound-files-worker.mock.ts',
        '^.*/create-listening-worker$': '<rootDir>/app/src/testing/create-listening-worker.mock.ts',
        '^.*/create-loudness-worker$': '<rootDir>/app/src/work/create-loudness-worker.mock.ts',
      },
      transform: {
        '^.+\\.(ts|js|mjs|html|svg)$': [
          'jest-preset-angular',
          { tsconfig: '<rootDir>/app/tsconfig.spec.json', stringifyContentPathRegex: '\\.(html|svg)$' },
        ],
      },
      transformIgnorePatterns: [`/node_modules/(?!(.*\\.mjs$|(${modules.join('|')})/))`],
    },
  ],
};
