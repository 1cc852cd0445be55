import { loadPolygonEngine } from '@tender/core/polygon'
import { loadSolidEngine } from '@tender/core/mesh'
import polygonWasm from 'clipper2-wasm/dist/es/clipper2z.wasm?url'
import solidWasm from 'manifold-3d/manifold.wasm?url'
import { once } from '../once'

const bytesOf = async (url: string) => new Uint8Array(await (await fetch(url)).arrayBuffer())
/** The library under polygons, loaded once in a thread. */
export const polygonEngine = once(async () => loadPolygonEngine(await bytesOf(polygonWasm)))
/** The library under solids, loaded once in a thread. */
export const solidEngine = once(async () => loadSolidEngine(await bytesOf(solidWasm)))
