import js from '@eslint/js'
import hooks from 'eslint-plugin-react-hooks'
import globals from 'globals'
import ts from 'typescript-eslint'

/**
 * Imports point one way: contract stands on core; server, web and cli on both; none of them on each other.
 */
const mayNot = (...patterns) => ({
  'no-restricted-imports': [
    'error',
    { patterns: patterns.map(([group, message]) => ({ group: [group].flat(), message })) },
  ],
})
const others = (...names) =>
  names.map((name) => [
    [`@tender/${name}`, `@tender/${name}/*`, `**/${name}/src/**`],
    `Imports point one way; ${name} is not below this workspace.`,
  ])

export default ts.config(
  {
    ignores: [
      '**/dist/**',
      '**/node_modules/**',
      'server/migrations/**',
      '.data/**',
      'test-results/**',
      'playwright-report/**',
    ],
  },
  js.configs.recommended,
  ...ts.configs.recommended,
  {
    rules: {
      '@typescript-eslint/no-unused-vars': [
        'error',
        { argsIgnorePattern: '^_', varsIgnorePattern: '^_', ignoreRestSiblings: true },
      ],
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      'no-console': ['error', { allow: ['error'] }],
      eqeqeq: ['error', 'always'],
      // The formatter leaves comments alone; sentences in strings stay in one piece, to be found.
      'max-len': [
        'error',
        {
          code: 110,
          ignoreStrings: true,
          ignoreTemplateLiterals: true,
          ignoreRegExpLiterals: true,
          ignoreUrls: true,
        },
      ],
    },
  },
  {
    files: ['core/src/**'],
    rules: {
      ...mayNot(...others('contract', 'server', 'web', 'cli'), [
        ['zod', 'react', 'express', 'node:*'],
        'core computes; it knows no border, no interface and no system.',
      ]),
      'no-restricted-globals': ['error', 'window', 'document', 'process', 'fetch', 'performance'],
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random', message: 'Chance comes in as a seeded source.' },
        { object: 'Date', property: 'now', message: 'Time comes in from outside.' },
      ],
    },
  },
  {
    files: ['core/src/**/*.test.ts', 'core/src/testing/**'],
    rules: { 'no-restricted-globals': 'off', 'no-restricted-imports': 'off' },
  },
  { files: ['contract/src/**'], rules: mayNot(...others('server', 'web', 'cli')) },
  { files: ['server/src/**'], rules: mayNot(...others('web', 'cli')) },
  { files: ['cli/src/**'], rules: mayNot(...others('server', 'web')) },
  {
    files: ['web/src/**'],
    plugins: { 'react-hooks': hooks },
    languageOptions: { globals: globals.browser },
    rules: {
      ...mayNot(...others('server', 'cli'), ['node:*', 'There is no Node in a browser.']),
      'no-restricted-globals': ['error', 'process', 'Buffer', 'require', 'global', 'setImmediate'],
      'react-hooks/rules-of-hooks': 'error',
      'react-hooks/exhaustive-deps': 'error',
    },
  },
  // Tests of the web run in Node; only types see both, so that the views are checked once.
  {
    files: ['web/src/**/*.test.{ts,tsx}', 'web/src/testing/**'],
    rules: { 'no-restricted-globals': 'off', ...mayNot(...others('server', 'cli')) },
  },
  { files: ['**/*.cjs'], rules: { '@typescript-eslint/no-require-imports': 'off' } },
  { files: ['scripts/jest/browser.mjs'], languageOptions: { globals: globals.browser } },
  {
    files: ['scripts/**', 'e2e/**', 'core/node/**', 'cli/bin/**', '*.js', '*.mjs'],
    languageOptions: { globals: globals.node },
    rules: { 'no-console': 'off' },
  },
)
