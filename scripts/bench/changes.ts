import { polygonEngine, solidEngine } from '@tender/core/node'
import { newDocument, type Decisions } from '@tender/core/decide'
import { demoParts } from '@tender/core/mesh'
import { createPlanner } from '@tender/core/plan'
import { processorMs } from './best'

/** What is changed, and within how many milliseconds of processor time the plan is to follow. */
const CHANGES: readonly [string, number, Partial<Decisions>][] = [
  ['gap by half a layer', 100, { upperGapMm: 0.3 }],
  ['gap by a layer', 100, { upperGapMm: 0.4 }],
  ['density', 100, { standDensity: 0.2 }],
  ['spacing', 100, { interfaceSpacingMm: 0.6 }],
  ['angle', 600, { freeAngleDeg: 45 }],
  ['layer height', 600, { layerHeightMm: 0.24 }],
]

/** What one changed value costs after the plan of a demo part, on one core. */
export async function benchChanges(): Promise<void> {
  const [solids, polygons] = [await solidEngine(), await polygonEngine()]
  const rows: Record<string, Record<string, string>> = {}
  for (const { name, mesh } of demoParts(solids)) {
    const before = newDocument()
    rows[name] = {}
    for (const [what, aim, changed] of CHANGES) {
      const after = newDocument({ decisions: { ...before.decisions, ...changed } })
      let shortest = Infinity
      // A planner of its own each time: a value asked for before costs nothing.
      for (let i = 0; i < 2; i++) {
        const planner = createPlanner(polygons)
        await planner.plan(name, mesh, before)
        shortest = Math.min(shortest, await processorMs(() => planner.plan(name, mesh, after)))
      }
      rows[name][`${what}, ${aim}`] = `${Math.round(shortest)}${shortest > aim ? ', missed' : ''}`
    }
  }
  console.table(rows)
  console.log(
    'ms of processor time after one changed value, what compiles and tidies memory beside it included; behind each value, its aim.',
  )
}
