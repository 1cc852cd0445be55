const typescript = (tsx) => [
  '<rootDir>/scripts/jest/transform.cjs',
  {
    jsc: {
      target: 'es2022',
      parser: { syntax: 'typescript', tsx },
      transform: { react: { runtime: 'automatic' } },
    },
    module: { type: 'es6' },
  },
]

/**
 * Unit tests of every workspace, the server's tests against a real database, and views rendered without a
 * browser (.test.tsx). Modules stay ES modules: the engines are.
 */
export default {
  testMatch: ['<rootDir>/{core,contract,cli,devices,server,web}/src/**/*.test.{ts,tsx}'],
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  transform: { '^.+\\.ts$': typescript(false), '^.+\\.tsx$': typescript(true) },
  setupFiles: ['<rootDir>/scripts/jest/browser.mjs'],
  moduleNameMapper: {
    '^styled-components$': '<rootDir>/scripts/jest/styled.mjs',
    // In one file; it has more than two thousand modules, and all are loaded for the first icon.
    '^lucide-react$': '<rootDir>/node_modules/lucide-react/dist/cjs/lucide-react.js',
    // Without a browser there are no threads: what they do is done here.
    '/workers/fitting$|^\\./fitting$': '<rootDir>/web/src/testing/fittingHere.ts',
  },
  transformIgnorePatterns: ['/node_modules/'],
  testSequencer: '<rootDir>/scripts/jest/heavyFirst.mjs',
  testTimeout: 300_000,
  maxWorkers: 2,
}
