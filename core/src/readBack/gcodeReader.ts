import { TenderError } from '../errors'
import { LineWords, ROLES } from '../print'
import { GapFinder, type ReadGap } from './gapFinder'
import { MoveClock, type ClockRules } from './moveClock'

/** What a G-code file really does, as far as its moves and comments say. */
export type ReadBack = {
  /** Per tool: filament pushed forward beyond what was drawn back. */
  readonly tools: readonly {
    readonly tool: number
    readonly lengthMm: number
    readonly mm3: number
    /** The filament that a comment names for it; null where none does. */
    readonly name: string | null
  }[]
  /** Volume per role, where comments name roles; null where none do. */
  readonly rolesMm3: Readonly<Record<string, number>> | null
  /** Heights at which something is laid, from below. */
  readonly heightsMm: readonly number[]
  /** Where the first layer ends: the part's, where comments name roles; stands may begin thinner. */
  readonly firstMm: number | null
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

/** Letters by their codes. */
const [E, F, I, J, P, R, S, T, X, Y, Z] = [...'EFIJPRSTXYZ'].map((letter) => letter.charCodeAt(0))

/** A line longer than this is no G-code. */
const LONGEST_LINE = 4096
/** Arcs are followed in chords that stray no farther than this. */
const CHORD_MM = 0.02
/** Commands without a move that change nothing of what is counted. */
const QUIET =
  /^(M(0|1|17|18|84|73|75|76|77|82|83|104|105|106|107|109|110|115|117|118|140|190|201|203|204|205|220|221|400|900|572|566)|G(4|10|11|17|20|21|28|29|80|90|91|92))$/

/**
 * Reads G-code line by line, ours or another's: absolute and relative moves and extrusion, arcs, inches,
 * tools.
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
  /** After a swap, until a role is named: what is pushed out is purged, and within a swap's own time. */
  private isSwapping = false
  /** Lowest height of the part's own lines, where comments name roles. */
  private partFromMm = Infinity
  private readonly pushed = new Map<number, number>()
  /** Filament drawn back and not yet pushed forward again, per tool. */
  private readonly back = new Map<number, number>()
  private readonly roles = new Map<string, number>()
  private readonly heights = new Set<number>()
  private readonly low: [number, number, number] = [Infinity, Infinity, Infinity]
  private readonly high: [number, number, number] = [-Infinity, -Infinity, -Infinity]
  private readonly hotC = new Map<number, number>()
  private readonly coldest = new Map<number, number>()
  private readonly names = new Map<number, string>()
  private readonly unknown = new Map<string, number>()
  private readonly clock: MoveClock
  private readonly gaps: GapFinder
  private moves = 0
  /** The height last laid at. */
  private heightMm = NaN
  private readonly words = new LineWords()

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
    this.words.read(line, cut >= 0 ? cut : line.length)
    const { command } = this.words
    if (command === '') return
    if (command === 'G0' || command === 'G1') this.move()
    else if (command === 'G2' || command === 'G3') this.arc(command === 'G3')
    else if (command === 'G92') this.setPlace()
    else if (command === 'G90' || command === 'G91') {
      this.relative = command === 'G91'
      this.relativeE = this.relative
    } else if (command === 'M82' || command === 'M83') this.relativeE = command === 'M83'
    else if (command === 'G20' || command === 'G21') this.unit = command === 'G20' ? 25.4 : 1
    else if (command === 'G4') {
      const seconds = (this.value(S) ?? 0) + (this.value(P) ?? 0) / 1000
      if (!this.isSwapping) this.clock.wait(seconds)
    } else if (command === 'M104' || command === 'M109') {
      const degrees = this.value(S) ?? this.value(R)
      if (degrees !== undefined) this.hotC.set(this.value(T) ?? this.tool, degrees)
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
    const heightsMm = [...this.heights].toSorted((a, b) => a - b)
    const used = [...this.pushed].toSorted((a, b) => a[0] - b[0])
    return {
      tools: used.map(([tool, lengthMm]) => ({
        ...{ tool, lengthMm, mm3: lengthMm * section },
        name: this.names.get(tool) ?? null,
      })),
      rolesMm3:
        this.roles.size === 0
          ? null
          : Object.fromEntries([...this.roles].map(([role, mm]) => [role, mm * section])),
      heightsMm,
      firstMm: Number.isFinite(this.partFromMm) ? this.partFromMm : (heightsMm[0] ?? null),
      swaps: this.swaps,
      timeS: this.clock.finish() + this.swaps * this.rules.swapS,
      boxMm: this.low[0] === Infinity ? null : { min: this.low, max: this.high },
      gaps: this.gaps.found(),
      coldestC: used.map(([tool]) => this.coldest.get(tool) ?? null),
      unknown: Object.fromEntries(this.unknown),
      lines: this.lines,
    }
  }

  /** Roles and thicknesses are said in comments, "interface, 0.170 mm thick", and what each tool prints. */
  private comment(text: string): void {
    const named = /^tool (\d+): (.+), [\d.]+ mm3$/.exec(text)
    if (named) this.names.set(Number(named[1]), named[2])
    const said = /^([a-z]+), ([\d.]+) mm thick/.exec(text)
    if (!said || !(ROLES as readonly string[]).includes(said[1])) return
    this.role = said[1]
    this.isSwapping = false
    this.thickMm = Number(said[2])
  }

  private change(tool: number): void {
    if (tool === this.tool) return
    // The first tool that is named may be the one that begins.
    if (this.pushed.size > 0) this.swaps++
    this.tool = tool
    this.clock.stop()
    if (this.role === null) return
    this.role = 'purge'
    this.isSwapping = true
  }

  /** @throws TenderError FILE_NOT_GCODE when what was given is no number */
  private value(letter: number): number | undefined {
    if (!this.words.has(letter)) return undefined
    const found = this.words.of(letter)
    if (Number.isFinite(found)) return found
    throw new TenderError(
      'FILE_NOT_GCODE',
      `Line ${this.lines}: “${this.words.wordOf(letter).toUpperCase()}” is no number.`,
    )
  }

  private setPlace(): void {
    const e = this.value(E)
    if (e !== undefined) this.at.e = e * this.unit
    for (const axis of ['x', 'y', 'z'] as const) {
      const given = this.value(axis.toUpperCase().charCodeAt(0))
      if (given === undefined) continue
      // A place that is not known yet is taken to be the one that is named.
      if (!Number.isFinite(this.at[axis])) this.at[axis] = given * this.unit + this.origin[axis]
      else this.origin[axis] = this.at[axis] - given * this.unit
    }
  }

  /** Where an axis is told to go. */
  private target(axis: 'x' | 'y' | 'z', letter: number): number {
    const given = this.value(letter)
    if (given === undefined) return this.at[axis]
    return this.relative
      ? (Number.isFinite(this.at[axis]) ? this.at[axis] : 0) + given * this.unit
      : given * this.unit + this.origin[axis]
  }

  private push(): number {
    const given = this.value(E)
    if (given === undefined) return 0
    const mm = given * this.unit
    const pushed = this.relativeE ? mm : mm - this.at.e
    this.at.e = this.relativeE ? this.at.e + mm : mm
    return pushed
  }

  private feed(): void {
    const feed = this.value(F)
    if (feed !== undefined && feed > 0) this.feedMmS = (feed * this.unit) / 60
  }

  private move(): void {
    this.feed()
    this.go(this.target('x', X), this.target('y', Y), this.target('z', Z), this.push())
  }

  private arc(leftwards: boolean): void {
    this.feed()
    const [x, y, z] = [this.target('x', X), this.target('y', Y), this.target('z', Z)]
    const { x: fromX, y: fromY, z: fromZ } = this.at
    const centre = [fromX + (this.value(I) ?? 0) * this.unit, fromY + (this.value(J) ?? 0) * this.unit]
    const radius = Math.hypot(fromX - centre[0], fromY - centre[1])
    const push = this.push()
    if (!(radius > 0) || this.value(R) !== undefined) return this.go(x, y, z, push)
    const begin = Math.atan2(fromY - centre[1], fromX - centre[0])
    let turn = Math.atan2(y - centre[1], x - centre[0]) - begin
    if (leftwards && turn <= 1e-9) turn += 2 * Math.PI
    if (!leftwards && turn >= -1e-9) turn -= 2 * Math.PI
    const chord = 2 * Math.acos(Math.max(0.5, 1 - CHORD_MM / radius))
    const steps = Math.max(1, Math.ceil(Math.abs(turn) / chord))
    for (let n = 1; n <= steps; n++) {
      const angle = begin + (turn * n) / steps
      if (n === steps) this.go(x, y, z, push / steps)
      else
        this.go(
          centre[0] + radius * Math.cos(angle),
          centre[1] + radius * Math.sin(angle),
          fromZ + ((z - fromZ) * n) / steps,
          push / steps,
        )
    }
  }

  private go(x: number, y: number, z: number, push: number): void {
    this.moves++
    const { x: fromX, y: fromY, z: fromZ } = this.at
    const [dx, dy, dz] = [x - fromX, y - fromY, z - fromZ]
    const away = Math.sqrt(dx * dx + dy * dy)
    const length = Number.isFinite(away) ? Math.sqrt(dx * dx + dy * dy + dz * dz) : 0
    let laid = 0
    if (push !== 0) {
      const back = this.back.get(this.tool) ?? 0
      // What only makes up for what was drawn back lays nothing.
      laid = Math.max(0, push - back)
      if (back !== 0 || push < 0) this.back.set(this.tool, Math.max(0, back - push))
    }
    if (laid > 0) {
      this.pushed.set(this.tool, (this.pushed.get(this.tool) ?? 0) + laid)
      if (this.role) this.roles.set(this.role, (this.roles.get(this.role) ?? 0) + laid)
      const hot = this.hotC.get(this.tool)
      if (hot !== undefined && !(this.coldest.get(this.tool)! <= hot)) this.coldest.set(this.tool, hot)
      if (away > 0) {
        if (z !== this.heightMm && !this.isSwapping) {
          this.heightMm = z
          this.heights.add(Number(z.toFixed(4)))
        }
        if (this.role === 'part' && z < this.partFromMm) this.partFromMm = z
        this.reach(fromX, fromY, z)
        this.reach(x, y, z)
        if (this.role) this.gaps.lay(this.role, fromX, fromY, x, y, z, this.thickMm)
      }
    }
    if (this.isSwapping) this.clock.stop()
    else if (length > 0) this.clock.move(dx, dy, dz, this.feedMmS, laid > 0)
    else if (push !== 0) this.clock.push(Math.abs(push), this.feedMmS)
    this.at.x = x
    this.at.y = y
    this.at.z = z
  }

  private reach(x: number, y: number, z: number): void {
    const { low, high } = this
    if (x < low[0]) low[0] = x
    if (y < low[1]) low[1] = y
    if (z < low[2]) low[2] = z
    if (x > high[0]) high[0] = x
    if (y > high[1]) high[1] = y
    if (z > high[2]) high[2] = z
  }
}
