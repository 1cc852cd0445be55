import createClipper from 'clipper2-wasm/dist/es/clipper2z.js'
import type { MainModule, Paths64 } from 'clipper2-wasm/dist/clipper2z'
import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { ringCount, ringOf, type Region } from '@tender/core/polygon'
import type { Layer } from '@tender/core/slice'

const require = createRequire(import.meta.url)
const clipper = (await createClipper({
  wasmBinary: readFileSync(require.resolve('clipper2-wasm/dist/es/clipper2z.wasm')),
})) as MainModule

/**
 * One grow and one difference a layer on the same outlines, straight in the library, loading and freeing
 * included.
 */
export function rawLayers(layers: readonly Layer[]): void {
  const load = (region: Region): Paths64 => {
    const paths = new clipper.Paths64()
    for (let r = 0; r < ringCount(region); r++) {
      const ring = ringOf(region, r)
      const path = new clipper.Path64()
      // Both halves of each 64-bit number as plain ones, the quickest way in that we know: a baseline must
      // not be slower than need be.
      const halves = new Int32Array(ring.length * 3)
      for (let p = 0; p < ring.length; p += 2) {
        const [x, y] = [Math.round(ring[p] * 1e4), Math.round(ring[p + 1] * 1e4)]
        halves[3 * p] = x
        halves[3 * p + 1] = x >> 31
        halves[3 * p + 2] = y
        halves[3 * p + 3] = y >> 31
      }
      path.assign(new BigInt64Array(halves.buffer))
      paths.push_back(path)
      path.delete()
    }
    return paths
  }
  for (let i = 1; i < layers.length; i++) {
    const [own, below] = [load(layers[i].region), load(layers[i - 1].region)]
    const grown = clipper.InflatePaths64(below, 2500, clipper.JoinType.Round, clipper.EndType.Polygon, 2, 10)
    const left = clipper.Difference64(own, grown, clipper.FillRule.NonZero)
    for (const paths of [own, below, grown, left]) paths.delete()
  }
}
