import { TenderError } from '../errors'
import { ROLES } from '../print'
import { GapFinder, type ReadGap } from './gapFinder'
import { MoveClock, type ClockRules } from './moveClock'

/** What a G-code file really does, as far as its moves and comments say. */
export type ReadBack = {
  /** Per tool: filament pushed forward beyond what was drawn back. */
  readonly tools: readonly { readonly tool: number; readonly lengthMm: number; readonly mm3: number }[]
  /** Volume per role, where comments name roles; null where none do. */
  readonly rolesMm3: Readonly<Record<string, number>> | null
  /** Heights at which something is laid, from below. */
  readonly heightsMm: readonly number[]
  readonly swaps: number
  readonly timeS: number
  /** What is laid lies within. */
  readonly boxMm: {
    readonly min: readonly [number, number, number]
    readonly max: readonly [number, number, number]
  } | null
  /** Gaps that supports leave below the part, by the place they are printed at. */
  readonly gaps: readonly ReadGap[]
  /** Lowest temperature set while filament was pushed, per tool; null where none was set. */
  readonly coldestC: readonly (number | null)[]
  /** Commands that are not understood, and how often. */
  readonly unknown: Readonly<Record<string, number>>
  readonly lines: number
}

export type ReadRules = ClockRules & {
  readonly diameterMm: number
  readonly lineWidthMm: number
  /** Time of one swap, in s. */
  readonly swapS: number
}

/** A line longer than this is no G-code. */
const LONGEST_LINE = 4096
/** Arcs are followed in chords that stray no farther than this. */
const CHORD_MM = 0.02
/** Commands without a move that change nothing of what is counted. */
const QUIET =
  /^(M(0|1|17|18|84|73|75|76|77|82|83|104|105|106|107|109|110|115|117|118|140|190|201|203|204|205|220|221|400|900|572|566)|G(4|10|11|17|20|21|28|29|80|90|91|92))$/

/**
 * Reads G-code line by line, ours or another's: absolute and relative moves and extrusion, arcs, inches, tools.
 * Source: volumes are length of filament times its section; time by the same clock as estimates.
 */
export class GcodeReader {
  private readonly at = { x: NaN, y: NaN, z: 0, e: 0 }
  private readonly origin = { x: 0, y: 0, z: 0 }
  private relative = false
  private relativeE = false
  private unit = 1
  private feedMmS = 25
  private tool = 0
  private swaps = 0
  private lines = 0
  private role: string | null = null
  private thickMm = 0
  private readonly pushed = new Map<number, number>()
  /** Filament drawn back and not yet pushed forward again, per tool. */
  private readonly back = new Map<number, number>()
  private readonly roles = new Map<string, number>()
  private readonly heights = new Set<number>()
  private readonly low: [number, number, number] = [Infinity, Infinity, Infinity]
  private readonly high: [number, number, number] = [-Infinity, -Infinity, -Infinity]
  private readonly hotC = new Map<number, number>()
  private readonly coldest = new Map<number, number>()
  private readonly unknown = new Map<string, number>()
  private readonly clock: MoveClock
  private readonly gaps: GapFinder
  private moves = 0

  constructor(private readonly rules: ReadRules) {
    this.clock = new MoveClock(rules)
    this.gaps = new GapFinder(rules.lineWidthMm)
  }

  /**
   * Takes the next line.
   * @throws TenderError FILE_NOT_GCODE for what is no text, or no line
   */
  take(line: string): void {
    this.lines++
    if (line.length > LONGEST_LINE)
      throw new TenderError(
        'FILE_NOT_GCODE',
        `Line ${this.lines} is ${line.length} characters long; no G-code has such.`,
      )
    if (line.includes('\0'))
      throw new TenderError('FILE_NOT_GCODE', `Line ${this.lines} is not text: the file is no G-code.`)
    const cut = line.indexOf(';')
    if (cut >= 0) this.comment(line.slice(cut + 1).trim())
    const code = (cut >= 0 ? line.slice(0, cut) : line).trim()
    if (code === '') return
    const words = code.toUpperCase().split(/\s+/)
    const command = words[0].replace(/^([GMT])0+(?=\d)/, '$1')
    const value = (letter: string): number | undefined => {
      for (let i = 1; i < words.length; i++)
        if (words[i][0] === letter) {
          const found = Number(words[i].slice(1))
          if (Number.isFinite(found)) return found
          throw new TenderError('FILE_NOT_GCODE', `Line ${this.lines}: “${words[i]}” is no number.`)
        }
      return undefined
    }
    if (command === 'G0' || command === 'G1') this.move(value)
    else if (command === 'G2' || command === 'G3') this.arc(value, command === 'G3')
    else if (command === 'G92') this.setPlace(value)
    else if (command === 'G90' || command === 'G91') {
      this.relative = command === 'G91'
      this.relativeE = this.relative
    } else if (command === 'M82' || command === 'M83') this.relativeE = command === 'M83'
    else if (command === 'G20' || command === 'G21') this.unit = command === 'G20' ? 25.4 : 1
    else if (command === 'G4') this.clock.wait((value('S') ?? 0) + (value('P') ?? 0) / 1000)
    else if (command === 'M104' || command === 'M109') {
      const degrees = value('S') ?? value('R')
      if (degrees !== undefined) this.hotC.set(value('T') ?? this.tool, degrees)
    } else if (/^T\d+$/.test(command)) this.change(Number(command.slice(1)))
    else if (command === 'G28') Object.assign(this.at, { x: NaN, y: NaN })
    else if (!QUIET.test(command)) this.unknown.set(command, (this.unknown.get(command) ?? 0) + 1)
  }

  /**
   * What was read.
   * @throws TenderError FILE_NOT_GCODE when nothing in it moves
   */
  finish(): ReadBack {
    if (this.moves === 0)
      throw new TenderError('FILE_NOT_GCODE', 'Nothing in this file moves a nozzle; it is no G-code.')
    const section = (Math.PI * this.rules.diameterMm ** 2) / 4
    const used = [...this.pushed].toSorted((a, b) => a[0] - b[0])
    return {
      tools: used.map(([tool, lengthMm]) => ({ tool, lengthMm, mm3: lengthMm * section })),
      rolesMm3:
        this.roles.size === 0
          ? null
          : Object.fromEntries([...this.roles].map(([role, mm]) => [role, mm * section])),
      heightsMm: [...this.heights].toSorted((a, b) => a - b),
      swaps: this.swaps,
      timeS: this.clock.finish() + this.swaps * this.rules.swapS,
      boxMm: this.low[0] === Infinity ? null : { min: this.low, max: this.high },
      gaps: this.gaps.found(),
      coldestC: used.map(([tool]) => this.coldest.get(tool) ?? null),
      unknown: Object.fromEntries(this.unknown),
      lines: this.lines,
    }
  }

  /** Roles and thicknesses are said in comments: "interface, 0.170 mm thick". */
  private comment(text: string): void {
    const said = /^([a-z]+), ([\d.]+) mm thick/.exec(text)
    if (!said || !(ROLES as readonly string[]).includes(said[1])) return
    this.role = said[1]
    this.thickMm = Number(said[2])
  }

  private change(tool: number): void {
    if (tool === this.tool) return
    // The first tool that is named may be the one that begins.
    if (this.pushed.size > 0) this.swaps++
    this.tool = tool
    this.clock.stop()
  }

  private setPlace(value: (letter: string) => number | undefined): void {
    const e = value('E')
    if (e !== undefined) this.at.e = e * this.unit
    for (const axis of ['x', 'y', 'z'] as const) {
      const given = value(axis.toUpperCase())
      if (given === undefined) continue
      // A place that is not known yet is taken to be the one that is named.
      if (!Number.isFinite(this.at[axis])) this.at[axis] = given * this.unit + this.origin[axis]
      else this.origin[axis] = this.at[axis] - given * this.unit
    }
  }

  private target(value: (letter: string) => number | undefined): [number, number, number] {
    const on = (axis: 'x' | 'y' | 'z'): number => {
      const given = value(axis.toUpperCase())
      if (given === undefined) return this.at[axis]
      return this.relative
        ? (Number.isFinite(this.at[axis]) ? this.at[axis] : 0) + given * this.unit
        : given * this.unit + this.origin[axis]
    }
    return [on('x'), on('y'), on('z')]
  }

  private push(value: (letter: string) => number | undefined): number {
    const given = value('E')
    if (given === undefined) return 0
    const mm = given * this.unit
    const pushed = this.relativeE ? mm : mm - this.at.e
    this.at.e = this.relativeE ? this.at.e + mm : mm
    return pushed
  }

  private move(value: (letter: string) => number | undefined): void {
    const feed = value('F')
    if (feed !== undefined && feed > 0) this.feedMmS = (feed * this.unit) / 60
    this.go(this.target(value), this.push(value))
  }

  private arc(value: (letter: string) => number | undefined, leftwards: boolean): void {
    const feed = value('F')
    if (feed !== undefined && feed > 0) this.feedMmS = (feed * this.unit) / 60
    const [x, y, z] = this.target(value)
    const { x: fromX, y: fromY, z: fromZ } = this.at
    const centre = [fromX + (value('I') ?? 0) * this.unit, fromY + (value('J') ?? 0) * this.unit]
    const radius = Math.hypot(fromX - centre[0], fromY - centre[1])
    const push = this.push(value)
    if (!(radius > 0) || value('R') !== undefined) return this.go([x, y, z], push)
    const begin = Math.atan2(fromY - centre[1], fromX - centre[0])
    let turn = Math.atan2(y - centre[1], x - centre[0]) - begin
    if (leftwards && turn <= 1e-9) turn += 2 * Math.PI
    if (!leftwards && turn >= -1e-9) turn -= 2 * Math.PI
    const chord = 2 * Math.acos(Math.max(0.5, 1 - CHORD_MM / radius))
    const steps = Math.max(1, Math.ceil(Math.abs(turn) / chord))
    for (let n = 1; n <= steps; n++) {
      const angle = begin + (turn * n) / steps
      const place: [number, number, number] =
        n === steps
          ? [x, y, z]
          : [
              centre[0] + radius * Math.cos(angle),
              centre[1] + radius * Math.sin(angle),
              fromZ + ((z - fromZ) * n) / steps,
            ]
      this.go(place, push / steps)
    }
  }

  private go([x, y, z]: [number, number, number], push: number): void {
    this.moves++
    const { x: fromX, y: fromY, z: fromZ } = this.at
    const length =
      Number.isFinite(fromX) && Number.isFinite(x) ? Math.hypot(x - fromX, y - fromY, z - fromZ) : 0
    const back = this.back.get(this.tool) ?? 0
    // What only makes up for what was drawn back lays nothing.
    const laid = Math.max(0, push - back)
    this.back.set(this.tool, Math.max(0, back - push))
    if (laid > 0) {
      this.pushed.set(this.tool, (this.pushed.get(this.tool) ?? 0) + laid)
      if (this.role) this.roles.set(this.role, (this.roles.get(this.role) ?? 0) + laid)
      const hot = this.hotC.get(this.tool)
      if (hot !== undefined)
        this.coldest.set(this.tool, Math.min(hot, this.coldest.get(this.tool) ?? Infinity))
    }
    const away = Math.hypot(x - fromX, y - fromY)
    if (laid > 0 && away > 0) {
      this.heights.add(Number(z.toFixed(4)))
      for (const [px, py] of [
        [fromX, fromY],
        [x, y],
      ])
        for (const [axis, at] of [px, py, z].entries()) {
          this.low[axis] = Math.min(this.low[axis], at)
          this.high[axis] = Math.max(this.high[axis], at)
        }
      if (this.role) this.gaps.lay(this.role, fromX, fromY, x, y, z, this.thickMm)
    }
    if (length > 0) this.clock.move(x - fromX, y - fromY, z - fromZ, this.feedMmS, laid > 0)
    else if (push !== 0) this.clock.push(Math.abs(push), this.feedMmS)
    Object.assign(this.at, { x, y, z })
  }
}
