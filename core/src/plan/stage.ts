import type { Mesh } from '../mesh'
import type { PartPathOptions, ToolPaths } from '../path'
import type { PolygonEngine, RememberingEngine } from '../polygon'
import type { Checkpoint, Layer } from '../slice'
import type { Outputs } from './outputs'
import type { Reading } from './reading'

/**
 * Traces a part's lines somewhere else, while the planner builds its supports: nothing of either needs the
 * other.
 */
export type Tracer = (layers: readonly Layer[], options: PartPathOptions) => Promise<ToolPaths[]>

/** What stages work with, beside what they declare. */
export type Tools = {
  readonly mesh: Mesh
  readonly engine: PolygonEngine
  /** The same engine, which knows what supports were worked out before. */
  readonly supports: RememberingEngine
  readonly tracer: Tracer | null
  readonly checkpoint: Checkpoint
}

/** One piece of the work of a plan, which sees of a document what it says it reads, and nothing else. */
export type Stage<N extends keyof Outputs = keyof Outputs> = {
  readonly name: N
  readonly after: readonly (keyof Outputs)[]
  readonly reads: readonly (keyof Reading)[]
  run(up: Partial<Outputs>, reading: Reading, tools: Tools): Promise<Outputs[N]>
  /** Answers alike by this are one: what comes after stays as it was. */
  identity?(value: Outputs[N]): string
}

/**
 * Declares a stage.
 * @param after stages whose answers it takes
 * @param reads values of the document that it goes by; key, progress and what a view depends on all come from
 * this list
 */
export function defineStage<
  const N extends keyof Outputs,
  const A extends keyof Outputs,
  const R extends keyof Reading,
>(stage: {
  readonly name: N
  readonly after: readonly A[]
  readonly reads: readonly R[]
  run(up: Pick<Outputs, A>, reading: Pick<Reading, R>, tools: Tools): Outputs[N] | Promise<Outputs[N]>
  identity?(value: Outputs[N]): string
}): Stage<N> {
  return {
    name: stage.name,
    after: stage.after,
    reads: stage.reads,
    ...(stage.identity && { identity: (value: Outputs[N]) => stage.identity!(value) }),
    run: async (up, reading, tools) =>
      stage.run(picked(up as Outputs, stage.after), picked(reading, stage.reads), tools),
  }
}

/** Just these of an object's values, so that nothing undeclared can be seen. */
function picked<T extends object, K extends keyof T>(from: T, keys: readonly K[]): Pick<T, K> {
  const out = {} as Pick<T, K>
  for (const key of keys) out[key] = from[key]
  return out
}
