import { expose } from 'comlink'
import { fileCalls } from './fileCalls'
import { partCalls } from './partCalls'
import { planCalls } from './planCalls'

const api = { ...partCalls, ...planCalls, ...fileCalls }
export type GeometryApi = typeof api
expose(api)
