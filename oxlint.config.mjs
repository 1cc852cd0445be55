import { defineConfig } from 'oxlint'

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

export default defineConfig({
  plugins: ['eslint', 'typescript', 'oxc'],
  jsPlugins: ['./scripts/lint/width.mjs'],
  categories: { correctness: 'error' },
  ignorePatterns: [
    '**/dist/**',
    'server/migrations/**',
    '.data/**',
    'test-results/**',
    'playwright-report/**',
  ],
  rules: {
    'no-unused-vars': [
      'error',
      { argsIgnorePattern: '^_', varsIgnorePattern: '^_', ignoreRestSiblings: true },
    ],
    'typescript/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
    'typescript/no-explicit-any': 'error',
    'typescript/ban-ts-comment': 'error',
    'typescript/no-empty-object-type': 'error',
    'typescript/no-namespace': 'error',
    'typescript/no-require-imports': 'error',
    'typescript/no-unnecessary-type-constraint': 'error',
    'typescript/no-unsafe-function-type': 'error',
    'no-case-declarations': 'error',
    'no-console': ['error', { allow: ['error'] }],
    'no-empty': 'error',
    'no-fallthrough': 'error',
    'no-prototype-builtins': 'error',
    'no-regex-spaces': 'error',
    'no-useless-assignment': 'error',
    'no-var': 'error',
    'prefer-const': 'error',
    'prefer-rest-params': 'error',
    'prefer-spread': 'error',
    'preserve-caught-error': 'error',
    eqeqeq: ['error', 'always'],
    'width/comments': ['error', { most: 110 }],
  },
  overrides: [
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
      plugins: ['react'],
      rules: {
        ...mayNot(...others('server', 'cli'), ['node:*', 'There is no Node in a browser.']),
        'no-restricted-globals': ['error', 'process', 'Buffer', 'require', 'global', 'setImmediate'],
        'react/rules-of-hooks': 'error',
        'react/exhaustive-deps': 'error',
        // What React's compiler, which is not used here, could not make faster.
        'react/immutability': 'off',
        'react/incompatible-library': 'off',
        'react/refs': 'off',
        'react/set-state-in-effect': 'off',
        'react/void-use-memo': 'off',
      },
    },
    // Tests of the web run in Node; only types see both, so that the views are checked once.
    {
      files: ['web/src/**/*.test.{ts,tsx}', 'web/src/testing/**'],
      rules: { 'no-restricted-globals': 'off', ...mayNot(...others('server', 'cli')) },
    },
    { files: ['**/*.cjs'], rules: { 'typescript/no-require-imports': 'off' } },
    {
      files: ['scripts/**', 'e2e/**', 'core/node/**', 'cli/bin/**', '*.js', '*.mjs'],
      rules: { 'no-console': 'off' },
    },
  ],
})
