export { reliefChange, relieve } from './relieve'
export type { Relief, ReliefOptions } from './relieve'
