import js from '@eslint/js';
import ngrx from '@ngrx/eslint-plugin/v9';
import angular from 'angular-eslint';
import stylistic from '@stylistic/eslint-plugin';
import prettier from 'eslint-config-prettier/flat';
import tseslint from 'typescript-eslint';

const forbidImports = (group, message) => ({ 'no-restricted-imports': ['error', { patterns: [{ group, message }] }] });
const forbidMath = (names, message) => names.map((property) => ({ object: 'Math', property, message }));

export default tseslint.config(
  { ignores: ['dist', 'node_modules', '.angular', 'app/public', '**/*.mjs', '**/*.cjs', '**/*.gen.ts'] },
  {
    files: ['**/*.ts'],
    extends: [js.configs.recommended, tseslint.configs.strictTypeChecked, tseslint.configs.stylisticTypeChecked],
    languageOptions: {
      parserOptions: {
        project: ['tsconfig.json', 'app/tsconfig.worker.json', 'app/tsconfig.worklet.json'],
        tsconfigRootDir: import.meta.dirname,
      },
    },
    rules: {
      '@typescript-eslint/no-extraneous-class': 'off',
      '@typescript-eslint/restrict-template-expressions': [
        'error',
        { allowNumber: true, allowBoolean: true, allowNullish: true },
      ],
      '@typescript-eslint/no-unused-vars': ['error', { varsIgnorePattern: '^_', argsIgnorePattern: '^_' }],
      // Typed arrays and checked indexes: "as number" says what a range check two lines above has proven.
      '@typescript-eslint/non-nullable-type-assertion-style': 'off',
      '@typescript-eslint/no-confusing-void-expression': [
        'error',
        { ignoreArrowShorthand: true, ignoreVoidOperator: true },
      ],
      // The strings taken apart here are figures, symbols and ids, never people's emoji.
      '@typescript-eslint/no-misused-spread': 'off',
      '@typescript-eslint/prefer-for-of': 'off',
      // Numbers with a unit (theory/units.ts) are numbers.
      '@typescript-eslint/no-unsafe-unary-minus': 'off',
      '@typescript-eslint/no-meaningless-void-operator': 'off',
    },
  },
  {
    files: ['app/src/**/*.ts'],
    extends: [angular.configs.tsRecommended, ngrx.configs.all],
    processor: angular.processInlineTemplates,
    rules: {
      // Rows of tables are components by an attribute: browsers know no other rows.
      '@angular-eslint/component-selector': [
        'error',
        [
          { type: 'element', prefix: 'fd', style: 'kebab-case' },
          { type: 'attribute', prefix: 'fd', style: 'camelCase' },
        ],
      ],
      '@angular-eslint/prefer-on-push-component-change-detection': 'error',
      // Signals read the store; selectors stay plain functions.
      '@ngrx/prefer-selector-in-select': 'off',
      ...forbidImports(['**/server/**', '**/../core/**'], 'app imports core only as @fendro/core/…'),
    },
  },
  {
    files: ['app/src/**/*.html'],
    extends: [angular.configs.templateRecommended, angular.configs.templateAccessibility],
    rules: {
      '@angular-eslint/template/label-has-associated-control': [
        'error',
        { controlComponents: ['choice', 'find', 'number', 'search', 'text'].map((kind) => `fd-${kind}-field`) },
      ],
    },
  },
  {
    files: ['core/**/*.ts'],
    ignores: ['**/*.spec.ts'],
    rules: {
      ...forbidImports(
        ['@angular/*', '@ngrx/*', 'express', 'node:*', '**/app/**', '**/server/**', 'localforage'],
        'core is pure',
      ),
      'no-restricted-properties': [
        'error',
        ...forbidMath(['random'], 'draw from trellis/random.ts, so that a seed makes the same notes again'),
      ],
    },
  },
  {
    files: ['core/**/*.ts', 'app/src/**/*.ts', 'tools/**/*.ts'],
    ignores: ['**/*.spec.ts', 'core/song/take.ts', 'core/song/section.ts', 'core/song/migrations/**'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: "Property[key.name='origin'][value.type='ObjectExpression']",
          message: 'takes are made in core/song/take.ts, so that each says what it came from and what it lies over',
        },
        {
          selector: "MemberExpression[object.name='section'][property.name=/^(harmony|chosen)$/]",
          message: 'what a section has chosen is read and changed through core/song/section.ts',
        },
      ],
    },
  },
  {
    files: ['core/compose/**/*.ts', 'core/trellis/**/*.ts', 'core/study/infer/**/*.ts'],
    ignores: ['**/*.spec.ts'],
    rules: {
      'no-restricted-properties': [
        'error',
        ...forbidMath(
          ['random', 'exp', 'log', 'pow', 'sin', 'cos', 'sqrt', 'log2', 'hypot'],
          'rounds differently between engines: use trellis/weights.ts',
        ),
      ],
    },
  },
  {
    files: ['**/*.spec.ts', 'core/testing/**/*.ts', 'tools/bench/**/*.ts', 'e2e/**/*.ts'],
    rules: { '@typescript-eslint/no-non-null-assertion': 'off' },
  },
  {
    files: ['e2e/support/*.ts'],
    // Playwright reads from the pattern which fixtures are needed, so that none is an empty one.
    rules: { 'no-empty-pattern': ['error', { allowObjectPatternsAsParameters: true }] },
  },
  {
    files: ['**/*.spec.ts'],
    rules: {
      'no-restricted-properties': [
        'error',
        {
          object: 'jest',
          property: 'mock',
          message: 'specs are bundled: put a stand-in beside the module (name.mock.ts)',
        },
      ],
    },
  },
  prettier,
  {
    files: ['**/*.ts'],
    plugins: { '@stylistic': stylistic },
    // Prettier breaks code at 120 columns; what it cannot break, such as a long text, is parted by hand.
    rules: { '@stylistic/max-len': ['error', { code: 140 }] },
  },
);
