// The one place where core's engines meet the file system and threads: for the command line, the server and
// the tests.
export { polygonEngine, solidEngine } from './engines'
export { workBeside } from './beside'
