import { expose } from 'comlink'
import { fittingWork } from './fittingWork'

expose(fittingWork)
