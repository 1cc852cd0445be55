import { polygonEngine, solidEngine, workBeside } from '@tender/core/node'
import type { BodyEngines } from '@tender/core/solid'

/** One thread beside this one, for whatever is asked for. */
export const beside = workBeside()

/** What bodies are made with: one of them here, one beside. */
export const bodyEngines = async (): Promise<BodyEngines> => ({
  polygons: await polygonEngine(),
  solids: await solidEngine(),
  beside: beside.solid,
})
