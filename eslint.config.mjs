import js from '@eslint/js';
import tseslint from 'typescript-eslint';
import hooks from 'eslint-plugin-react-hooks';
import globals from 'globals';

export default tseslint.config(
  {
    ignores: [
      '**/node_modules',
      '**/dist',
      '**/.next',
      '**/next-env.d.ts',
      'core/src/measure/grammar.js',
      'core/vector',
      'web/public',
    ],
  },
  js.configs.recommended,
  ...tseslint.configs.recommended,
  {
    rules: {
      eqeqeq: ['error', 'always'],
      'no-console': 'off',
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
    },
  },
  {
    // Core runs anywhere: it sees no DOM, no Node and no network.
    files: ['core/src/**/*.ts'],
    ignores: ['core/src/**/*.test.ts', 'core/src/**/*.fixture.ts'],
    rules: {
      'no-restricted-globals': [
        'error',
        'window',
        'document',
        'navigator',
        'process',
        'Buffer',
        'fetch',
        'require',
        'self',
        'localStorage',
        'Intl',
      ],
      'no-restricted-imports': ['error', { patterns: ['node:*', 'react', 'react-dom', 'next', 'next/*', 'dexie'] }],
    },
  },
  { files: ['**/*.mjs', '**/*.cjs'], languageOptions: { globals: globals.node } },
  { files: ['**/*.cjs'], rules: { '@typescript-eslint/no-require-imports': 'off' } },
  { files: ['web/src/**/*.{ts,tsx}'], ...hooks.configs.flat.recommended },
  {
    // Words that are paled by the opacity of what they stand in are no longer told from their ground; only what is
    // disabled may be pale.
    files: ['web/src/**/*.tsx'],
    rules: {
      'no-restricted-syntax': [
        'error',
        ...['Literal[value=/(^|\\s)opacity-\\d/]', 'TemplateElement[value.raw=/(^|\\s)opacity-\\d/]'].map(
          (selector) => ({
            selector,
            message: 'Opacity makes words too pale to be read: give them an ink, such as text-quiet.',
          }),
        ),
      ],
    },
  },
);
