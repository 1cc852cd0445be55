import { straightTime } from '../print'

export type ClockRules = { readonly accelMmS2: number; readonly cornerMmS: number }

/**
 * Counts the time of moves as they come: lines that follow each other are one way, on which the speed slows
 * at corners; anything else starts and ends at rest.
 * Source: as for estimates, v = jump / (2 sin(turn / 2)) at corners, v1^2 = v0^2 + 2 a s between them.
 */
export class MoveClock {
  private timeS = 0
  private lengths: number[] = []
  private speeds: number[] = []
  /** Highest speed at which each move may be entered. */
  private corners: number[] = []
  private direction: [number, number] = [0, 0]

  constructor(private readonly rules: ClockRules) {}

  move(dx: number, dy: number, dz: number, feedMmS: number, lays: boolean): void {
    const away = Math.sqrt(dx * dx + dy * dy)
    if (!lays || dz !== 0 || away === 0) {
      this.stop()
      // Heights are changed without a ramp worth counting.
      const length = Math.hypot(dx, dy, dz)
      this.timeS += away === 0 ? length / feedMmS : straightTime(length, 0, 0, feedMmS, this.rules.accelMmS2)
      return
    }
    const [ux, uy] = [dx / away, dy / away]
    const [tx, ty] = [ux - this.direction[0], uy - this.direction[1]]
    const turn = Math.sqrt(tx * tx + ty * ty)
    const before = this.speeds.at(-1)
    const most = before === undefined ? 0 : Math.min(before, feedMmS)
    this.corners.push(
      before === undefined ? 0 : turn < 1e-9 ? most : Math.min(most, this.rules.cornerMmS / turn),
    )
    this.lengths.push(away)
    this.speeds.push(feedMmS)
    this.direction = [ux, uy]
  }

  /** Filament alone. */
  push(mm: number, feedMmS: number): void {
    this.stop()
    this.timeS += mm / feedMmS
  }

  wait(s: number): void {
    this.stop()
    this.timeS += s
  }

  /** Ends a way: what comes next starts from rest. */
  stop(): void {
    const n = this.lengths.length
    if (n === 0) return
    const a = this.rules.accelMmS2
    const v = [...this.corners, 0]
    for (let i = 0; i < n; i++) v[i + 1] = Math.min(v[i + 1], Math.sqrt(v[i] ** 2 + 2 * a * this.lengths[i]))
    for (let i = n - 1; i >= 0; i--) {
      v[i] = Math.min(v[i], Math.sqrt(v[i + 1] ** 2 + 2 * a * this.lengths[i]))
      this.timeS += straightTime(this.lengths[i], v[i], v[i + 1], this.speeds[i], a)
    }
    this.lengths = []
    this.speeds = []
    this.corners = []
    this.direction = [0, 0]
  }

  finish(): number {
    this.stop()
    return this.timeS
  }
}
