import type { Print, PrintMeasure, Role } from '../print'
import { SAME_HEIGHT_MM } from '../tolerances'
import type { Ribbon } from './planResult'

const PART: readonly Role[] = ['part', 'brim']
const STAND: readonly Role[] = ['stand', 'footing']

/** A print height by height: plastic by what it is for, swaps, time. */
export function ribbonOf({ sweeps }: Print, { mm3, sweepS, swapBefore }: PrintMeasure): Ribbon {
  const starts: number[] = []
  sweeps.forEach(({ topMm }, i) => {
    if (i === 0 || Math.abs(topMm - sweeps[i - 1].topMm) >= SAME_HEIGHT_MM) starts.push(i)
  })
  const sums = (of: (i: number) => number) =>
    Float64Array.from(starts, (from, h) => {
      let sum = 0
      for (let i = from; i < (starts[h + 1] ?? sweeps.length); i++) sum += of(i)
      return sum
    })
  const plastic = (roles: readonly Role[]) => sums((i) => (roles.includes(sweeps[i].role) ? mm3[i] : 0))
  return {
    zMm: Float64Array.from(starts, (i) => sweeps[i].topMm),
    partMm3: plastic(PART),
    standMm3: plastic(STAND),
    interfaceMm3: plastic(['interface']),
    swaps: Uint8Array.from(sums((i) => swapBefore[i])),
    timeS: sums((i) => sweepS[i]),
  }
}
