import js from '@eslint/js';
import a11y from 'eslint-plugin-jsx-a11y';
import hooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

const TESTS = ['**/*.test.ts', '**/test/**/*.ts', 'e2e/**/*.ts'];

export default tseslint.config(
  {
    ignores: [
      '**/dist/**',
      '**/node_modules/**',
      '.data/**',
      // Made of other files: of the API's document, and of the published definition of ONNX.
      'web/src/api/schema.ts',
      'core/src/assessment/model-files/onnx/schema.ts',
    ],
  },
  js.configs.recommended,
  {
    files: ['**/*.mjs'],
    languageOptions: {
      globals: {
        process: 'readonly',
        console: 'readonly',
        setTimeout: 'readonly',
        fetch: 'readonly',
        URL: 'readonly',
        FormData: 'readonly',
        Blob: 'readonly',
        performance: 'readonly',
        AbortSignal: 'readonly',
      },
    },
  },
  {
    files: ['**/*.ts', '**/*.tsx'],
    extends: [tseslint.configs.strictTypeChecked],
    languageOptions: {
      parserOptions: {
        // One program for all: what workspaces share is looked at once.
        project: 'tsconfig.lint.json',
        tsconfigRootDir: import.meta.dirname,
      },
    },
    rules: {
      '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true }],
      '@typescript-eslint/no-confusing-void-expression': ['error', { ignoreArrowShorthand: true }],
      '@typescript-eslint/no-invalid-void-type': [
        'error',
        { allowAsThisParameter: true, allowInGenericTypeArguments: true },
      ],
      '@typescript-eslint/switch-exhaustiveness-check': 'error',
      '@typescript-eslint/prefer-nullish-coalescing': 'off',
      // Nest declares the options of its factory as classes and takes plain objects.
      '@typescript-eslint/no-unsafe-class-instance-assignment': 'off',
    },
  },
  // Two tests in the browser walk through one exercise from its first page to its last.
  {
    files: ['**/*.ts', '**/*.tsx'],
    rules: { 'max-lines': ['error', 250] },
  },
  // Modules of Nest are classes that only carry their decorator.
  { files: ['server/src/**/*.module.ts'], rules: { '@typescript-eslint/no-extraneous-class': 'off' } },
  {
    files: ['web/src/**/*.tsx', 'web/src/**/*.ts'],
    plugins: { 'react-hooks': hooks, 'jsx-a11y': a11y },
    rules: {
      ...hooks.configs.recommended.rules,
      ...a11y.flatConfigs.recommended.rules,
      // Focus goes to what a press has made appear: a keyboard would be lost without it.
      'jsx-a11y/no-autofocus': 'off',
    },
    settings: {
      // Elements of the page by Chakra's names for them.
      'jsx-a11y': {
        components: Object.fromEntries(
          ['a', 'button', 'form', 'input', 'label', 'select', 'span', 'svg', 'table', 'textarea'].map(
            (tag) => [`chakra.${tag}`, tag],
          ),
        ),
      },
    },
  },
  {
    files: TESTS,
    rules: { '@typescript-eslint/require-await': 'off', '@typescript-eslint/no-floating-promises': 'error' },
  },
);
