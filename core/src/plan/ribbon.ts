import { levelOf, type Print, type PrintMeasure, type Role } from '../print'
import { SAME_HEIGHT_MM } from '../tolerances'
import type { Ribbon } from './planResult'

const PART: readonly Role[] = ['part', 'brim']
const STAND: readonly Role[] = ['stand', 'footing']

/** A print height by height: plastic by what it is for, swaps, time. */
export function ribbonOf({ sweeps }: Print, { mm3, sweepS, swapBefore, purgedMm3 }: PrintMeasure): Ribbon {
  const starts: number[] = []
  sweeps.forEach((sweep, i) => {
    if (i === 0 || Math.abs(levelOf(sweep) - levelOf(sweeps[i - 1])) >= SAME_HEIGHT_MM) starts.push(i)
  })
  const sums = (of: (i: number) => number) =>
    Float64Array.from(starts, (from, h) => {
      let sum = 0
      for (let i = from; i < (starts[h + 1] ?? sweeps.length); i++) sum += of(i)
      return sum
    })
  const plastic = (roles: readonly Role[]) => sums((i) => (roles.includes(sweeps[i].role) ? mm3[i] : 0))
  return {
    zMm: Float64Array.from(starts, (i) => levelOf(sweeps[i])),
    partMm3: plastic(PART),
    standMm3: plastic(STAND),
    interfaceMm3: plastic(['interface']),
    purgeMm3: sums((i) => purgedMm3[i] + (sweeps[i].role === 'tower' ? mm3[i] : 0)),
    swaps: Uint8Array.from(sums((i) => swapBefore[i])),
    timeS: sums((i) => sweepS[i]),
  }
}
