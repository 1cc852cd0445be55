/** Unit tests of every workspace and the server's tests against a real database. Modules stay ES modules: the engines are. */
export default {
  testMatch: ['<rootDir>/{core,contract,cli,server,web}/src/**/*.test.ts'],
  extensionsToTreatAsEsm: ['.ts'],
  transform: { '^.+\\.ts$': ['<rootDir>/scripts/jest/transform.cjs', { jsc: { target: 'es2022', parser: { syntax: 'typescript' } }, module: { type: 'es6' } }] },
  transformIgnorePatterns: ['/node_modules/'],
  testTimeout: 60_000,
  maxWorkers: 2,
}
