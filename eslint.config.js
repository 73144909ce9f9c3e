import js from '@eslint/js';
import tseslint from 'typescript-eslint';
import reactHooks from 'eslint-plugin-react-hooks';
import jsdoc from 'eslint-plugin-jsdoc';
import said from './scripts/said-rule.mjs';
import units from './scripts/units-rule.mjs';

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
    plugins: { jsdoc, house: { rules: { units } } },
    rules: {
      'house/units': 'error',
      // What a function gives is said where it is given out.
      'jsdoc/require-jsdoc': [
        'error',
        {
          publicOnly: true,
          enableFixer: false,
          require: { FunctionDeclaration: true, ArrowFunctionExpression: true, FunctionExpression: true },
        },
      ],
      'no-restricted-globals': ['error', 'window', 'document', 'localStorage', 'navigator', 'fetch', 'performance'],
      'no-restricted-properties': [
        'error',
        { object: 'Date', property: 'now', message: 'The core has no clock of its own: take the time as an argument.' },
        { object: 'Math', property: 'random', message: 'The core has no randomness of its own: take a seed.' },
      ],
    },
  },
  // A sentence says itself; a field is named after what it holds.
  { files: ['src/core/**/words.ts', 'src/core/log/records/fields.ts'], rules: { 'jsdoc/require-jsdoc': 'off' } },
  {
    // Time is read and waited for by one clock: a test, and the demonstration, let it run faster.
    files: ['src/**/*.{ts,tsx}'],
    ignores: ['**/*.test.{ts,tsx}', 'src/app/world/clock.ts', 'src/app/**/*.worker.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        ...[
          "MemberExpression[object.name='Date'][property.name='now']",
          "MemberExpression[object.name='performance'][property.name='now']",
          'CallExpression[callee.name=/^set(Timeout|Interval)$/]',
          "CallExpression[callee.object.name='window'][callee.property.name=/^set(Timeout|Interval)$/]",
          "NewExpression[callee.name='Date'][arguments.length=0]",
        ].map((selector) => ({ selector, message: 'Take the clock of the world (src/app/world/clock.ts).' })),
      ],
    },
  },
  {
    files: ['src/app/{views,parts}/**/*.{ts,tsx}'],
    ignores: ['**/*.test.{ts,tsx}'],
    plugins: { told: { rules: { said } } },
    rules: { 'told/said': 'error' },
  },
  {
    files: ['src/app/sound/*.worklet.js'],
    languageOptions: { globals: { AudioWorkletProcessor: 'readonly', registerProcessor: 'readonly' } },
  },
  { files: ['**/*.cjs'], rules: { '@typescript-eslint/no-require-imports': 'off' } },
  {
    files: ['scripts/**/*.mjs', 'testing/*.cjs', '*.cjs', '*.js'],
    languageOptions: {
      globals: { process: 'readonly', console: 'readonly', module: 'readonly', require: 'readonly', URL: 'readonly' },
    },
  },
);
