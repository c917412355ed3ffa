// Templates only: everything else is linted by oxlint (.oxlintrc.json).
import angular from 'angular-eslint';
import tseslint from 'typescript-eslint';

export default tseslint.config(
  { ignores: ['**/*.spec.ts'] },
  {
    files: ['app/src/**/*.ts'],
    languageOptions: { parser: tseslint.parser },
    linterOptions: { reportUnusedDisableDirectives: 'off' },
    processor: angular.processInlineTemplates,
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
);
