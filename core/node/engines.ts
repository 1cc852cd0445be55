import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { loadPolygonEngine, type PolygonEngine } from '../src/polygon'
import { loadSolidEngine, type SolidEngine } from '../src/mesh'

const require = createRequire(import.meta.url)

let polygons: Promise<PolygonEngine> | null = null
let solids: Promise<SolidEngine> | null = null

/** The polygon engine, started once per process. */
export function polygonEngine(): Promise<PolygonEngine> {
  return (polygons ??= loadPolygonEngine(
    readFileSync(require.resolve('clipper2-wasm/dist/es/clipper2z.wasm')),
  ))
}

/** The solid engine, started once per process. */
export function solidEngine(): Promise<SolidEngine> {
  return (solids ??= loadSolidEngine(readFileSync(require.resolve('manifold-3d/manifold.wasm'))))
}
