import js from '@eslint/js';
import tseslint from 'typescript-eslint';
import reactHooks from 'eslint-plugin-react-hooks';

export default tseslint.config(
  { ignores: ['dist', 'dist-node', 'node_modules', 'test-results', 'playwright-report', '.tmp'] },
  js.configs.recommended,
  ...tseslint.configs.strict,
  {
    files: ['**/*.{ts,tsx}'],
    plugins: { 'react-hooks': reactHooks },
    rules: {
      'react-hooks/rules-of-hooks': 'error',
      'react-hooks/exhaustive-deps': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-explicit-any': 'error',
      // Index access is checked (noUncheckedIndexedAccess); in number loops the bound is plain to see.
      '@typescript-eslint/no-non-null-assertion': 'off',
      eqeqeq: 'error',
      'no-eval': 'error',
      'no-implied-eval': 'error',
    },
  },
  {
    files: ['src/core/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-globals': ['error', 'window', 'document', 'localStorage', 'navigator', 'fetch', 'performance'],
      'no-restricted-properties': [
        'error',
        { object: 'Date', property: 'now', message: 'The core has no clock of its own: take the time as an argument.' },
        { object: 'Math', property: 'random', message: 'The core has no randomness of its own: take a seed.' },
      ],
    },
  },
  {
    files: ['src/app/sound/*.worklet.js'],
    languageOptions: { globals: { AudioWorkletProcessor: 'readonly', registerProcessor: 'readonly' } },
  },
  {
    files: ['scripts/**/*.mjs', '*.cjs', '*.js'],
    languageOptions: { globals: { process: 'readonly', console: 'readonly', module: 'readonly', URL: 'readonly' } },
  },
);
