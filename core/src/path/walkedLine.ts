import { isSame } from './overLines'

/** A line that may go on as others, walked by how far along it is; a ring goes on from its end. */
export class WalkedLine {
  x = 0
  y = 0
  /** The direction at that place. */
  aheadX = 1
  aheadY = 0
  readonly mm: number
  readonly isClosed: boolean
  private readonly alongMm: Float64Array
  private side = 0

  /** @param end the point after its last one */
  constructor(
    private readonly xyMm: Float64Array,
    private readonly from: number,
    end: number,
  ) {
    const sides = end - from - 1
    this.alongMm = new Float64Array(sides + 1)
    for (let i = 0; i < sides; i++) {
      const p = 2 * (from + i)
      this.alongMm[i + 1] = this.alongMm[i] + Math.hypot(xyMm[p + 2] - xyMm[p], xyMm[p + 3] - xyMm[p + 1])
    }
    this.mm = this.alongMm[sides]
    this.isClosed = sides > 1 && isSame(xyMm, from, end - 1)
  }

  /** Goes to a place so far along it. */
  goTo(mm: number): void {
    const { alongMm, xyMm } = this
    const at = this.isClosed && mm > this.mm ? mm - this.mm : mm
    if (at < alongMm[this.side]) this.side = 0
    while (this.side + 2 < alongMm.length && alongMm[this.side + 1] <= at) this.side++
    const p = 2 * (this.from + this.side)
    const lengthMm = alongMm[this.side + 1] - alongMm[this.side]
    const [ux, uy] = [xyMm[p + 2] - xyMm[p], xyMm[p + 3] - xyMm[p + 1]]
    const share = lengthMm > 0 ? Math.min(1, (at - alongMm[this.side]) / lengthMm) : 0
    this.x = xyMm[p] + share * ux
    this.y = xyMm[p + 1] + share * uy
    if (lengthMm > 0) [this.aheadX, this.aheadY] = [ux / lengthMm, uy / lengthMm]
  }
}
