import type { Print } from './print'

/** Per sweep, the highest thing printed before it that ways have to clear, in mm. */
export type Clearances = {
  /** On the way to it. */
  readonly toMm: Float64Array
  /** On ways within it. */
  readonly withinMm: Float64Array
}

/**
 * What ways have to clear: everything printed so far; where pieces are printed one by one, only what stands
 * of its own within a piece, since they stand farther apart than the head is wide.
 */
export function clearancesOf({ sweeps, oneByOne = false }: Print): Clearances {
  const toMm = new Float64Array(sweeps.length)
  const withinMm = new Float64Array(sweeps.length)
  let [all, own] = [0, 0]
  let [piece, slot] = [sweeps[0]?.piece, sweeps[0]?.slot]
  sweeps.forEach((sweep, i) => {
    const isNext = oneByOne && sweep.piece !== piece
    if (isNext) own = 0
    withinMm[i] = oneByOne ? own : all
    // At a swap nobody knows where the nozzle has been meanwhile.
    toMm[i] = isNext || sweep.slot !== slot ? all : withinMm[i]
    ;[piece, slot] = [sweep.piece, sweep.slot]
    if (sweep.paths.kinds.length === 0) return
    all = Math.max(all, sweep.topMm)
    own = Math.max(own, sweep.topMm)
  })
  return { toMm, withinMm }
}
