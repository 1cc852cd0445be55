import { polygonEngine, solidEngine, workBeside } from '@tender/core/node'
import { newDocument, type PlanDocument } from '@tender/core/decide'
import { createPlanner } from '@tender/core/plan'
import { sliceMesh } from '@tender/core/slice'
import { planBodies } from '@tender/core/solid'
import { best } from './best'
import { rawLayers } from './raw'
import { ROUNDED, roundedShape, type RoundedName } from './rounded'

const AIM = 4
const CHANGE_MS = 500
const COLOURS = { part: '#a5a8b4', stand: '#cd8a62', interface: '#4f3f94' }

/**
 * Plans of rounded parts, which touch something on every layer: the whole, what a change costs after it, and
 * its bodies. Stands anywhere.
 */
export async function benchRounded(): Promise<void> {
  const [solids, polygons] = [await solidEngine(), await polygonEngine()]
  const plain = newDocument({ decisions: { placement: 'anywhere' } })
  const changed = (decisions: Partial<PlanDocument['decisions']>): PlanDocument => ({
    ...plain,
    decisions: { ...plain.decisions, ...decisions },
  })
  const beside = workBeside()
  for (const name of Object.keys(ROUNDED) as RoundedName[])
    for (const triangles of [3_000, 50_000, 500_000]) {
      const mesh = roundedShape(solids, name, triangles)
      const { layers } = await sliceMesh(mesh, polygons, plain.decisions)
      const raw = await best(() => rawLayers(layers))
      const planner = createPlanner(polygons)
      // Once: some of these take half a minute.
      const timed = async <T>(work: () => Promise<T>) => {
        const from = performance.now()
        const made = await work()
        return { made, ms: performance.now() - from }
      }
      const whole = await timed(() => planner.plan(name, mesh, plain))
      const both = await timed(() => createPlanner(polygons, beside.trace).plan(name, mesh, plain))
      const gap = await timed(() => planner.plan(name, mesh, changed({ upperGapMm: 0.22 })))
      const density = await timed(() => planner.plan(name, mesh, changed({ standDensity: 0.2 })))
      const bodies = await timed(() => planBodies(whole.made.geometry, { polygons, solids }, COLOURS))
      const bodiesBeside = await timed(() =>
        planBodies(whole.made.geometry, { polygons, solids, beside: beside.solid }, COLOURS),
      )
      // Told as soon as it is known: all of them take a quarter of an hour and more.
      console.log(`${name}, ${mesh.corners.length / 3} triangles, ${layers.length} layers`)
      console.table({
        'plan ms': Math.round(whole.ms),
        'plan / raw clipper2': told(whole.ms / raw, AIM, 1),
        'on both cores': told(both.ms / raw, AIM, 1),
        'changed gap ms': told(gap.ms, CHANGE_MS),
        'changed density ms': told(density.ms, CHANGE_MS),
        'bodies / plan': told(bodies.ms / whole.ms, 1, 2),
        'bodies on both / plan on both': told(bodiesBeside.ms / both.ms, 1, 2),
      })
    }
  console.log(
    `plan / raw clipper2: whole plan against one grow and one difference a layer, on one core and on both; wanted at most ${AIM}. A change: wanted within ${CHANGE_MS} ms. bodies / plan: wanted at most 1.`,
  )
}

const told = (figure: number, aim: number, digits = 0): string =>
  `${figure.toFixed(digits)}${figure > aim ? ', missed' : ''}`
