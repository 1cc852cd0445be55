import { sharesNozzle, type Filament, type Printer } from '../bench'
import { TenderError } from '../errors'
import { fillBlock } from './gcodeBlocks'
import type { CouponPrint } from './printCoupon'

export type GcodeOptions = {
  readonly title: string
  readonly printer: Printer
  /** Of the first and of the second slot; the same one twice is printed without swaps. */
  readonly filaments: readonly [Filament, Filament]
  /** Tool or slot number that each is loaded on. */
  readonly tools: readonly [number, number]
  readonly fanPercent: number
}

/** Travels from here on are made with the filament drawn back and the nozzle lifted clear of everything printed so far. */
const LIFT_FROM_MM = 1.2
const CLEAR_MM = 0.4
const RETRACT_MM = 0.8
const RETRACT_MM_S = 35
const LIFT_MM_S = 10

/**
 * The print of a coupon as G-code: the printer's own start, swap and end blocks around moves in absolute millimetres, extrusion
 * relative or absolute as the printer wants it, at exactly the speed, layer height and line width of the trial.
 *
 * Between pieces, and on longer ways within one, the nozzle travels above the highest thing printed so far.
 * @throws TenderError OFF_THE_BED when a line would leave the bed
 */
export function couponGcode(print: CouponPrint, options: GcodeOptions): string {
  const { printer, filaments, tools, fanPercent } = options
  const lines: string[] = [
    `; ${oneLine(options.title)}`,
    `; ${print.mm3.map((mm3, slot) => `${oneLine(filaments[slot].name)}: ${mm3.toFixed(1)} mm3`).join(', ')}; about ${Math.round(print.timeS / 60)} min`,
  ]
  const perMm = filaments.map(({ diameterMm }) => 1 / ((Math.PI * diameterMm * diameterMm) / 4))
  const first = print.sweeps[0].slot
  const facts = (slot: 0 | 1) => ({
    // What lies on the bed decides its heat.
    bed: filaments[first].bedC,
    nozzle: filaments[slot].nozzleC,
    tool: tools[slot],
    other: tools[1 - slot],
    otherNozzle: filaments[1 - slot].nozzleC,
    width: printer.bedMm[0],
    depth: printer.bedMm[1],
    height: printer.heightMm,
  })
  lines.push(...fillBlock(printer.startGcode, facts(first)), 'G21', 'G90', printer.extrusion === 'relative' ? 'M83' : 'M82', 'G92 E0')
  let slot = first
  let [x, y, z] = [NaN, NaN, 0]
  let highest = 0
  let e = 0
  let fanOn = false
  const retracted = [false, false]
  const extrude = (mm: number): string => {
    e = printer.extrusion === 'relative' ? mm : e + mm
    return `E${e.toFixed(5)}`
  }
  const feed = (mmS: number) => `F${Math.round(mmS * 60)}`

  for (const sweep of print.sweeps) {
    const { paths, bottomMm, topMm } = sweep
    if (paths.kinds.length === 0) continue
    if (sweep.slot !== slot) {
      drawBack()
      lines.push(`G0 Z${(highest + CLEAR_MM).toFixed(3)} ${feed(LIFT_MM_S)}`, ...fillBlock(printer.swapGcode, facts(sweep.slot)))
      // What a swap block did to place and extrusion is not known; both start anew.
      lines.push('G90', printer.extrusion === 'relative' ? 'M83' : 'M82', 'G92 E0')
      ;[x, y, z, e] = [NaN, NaN, highest + CLEAR_MM, 0]
      // A changer pushes the filament all the way to the tip; a nozzle of its own was left as it was.
      if (sharesNozzle(printer)) retracted[sweep.slot] = false
    }
    slot = sweep.slot
    if (bottomMm > 0 && !fanOn) {
      lines.push(`M106 S${Math.round(2.55 * fanPercent)}`)
      fanOn = true
    }
    if (sweep.step !== null) lines.push(`; step ${sweep.step}`)
    const speed = bottomMm === 0 ? Math.min(print.speedMmS, printer.firstLayerMmS) : print.speedMmS
    const volumePerMm = print.lineWidthMm * (topMm - bottomMm)
    for (let p = 0; p < paths.kinds.length; p++) {
      const from = 2 * paths.starts[p]
      const to = 2 * paths.starts[p + 1]
      goTo(paths.xyMm[from], paths.xyMm[from + 1], topMm, p === 0)
      for (let at = from + 2; at < to; at += 2) {
        const [nx, ny] = [paths.xyMm[at], paths.xyMm[at + 1]]
        onBed(nx, ny)
        const length = Math.hypot(nx - x, ny - y)
        if (length === 0) continue
        lines.push(`G1 X${nx.toFixed(3)} Y${ny.toFixed(3)} ${extrude(length * volumePerMm * perMm[slot])} ${feed(speed)}`)
        ;[x, y] = [nx, ny]
      }
    }
    highest = Math.max(highest, topMm)
  }
  drawBack()
  lines.push(`G0 Z${(highest + 5).toFixed(3)} ${feed(LIFT_MM_S)}`, 'M107', ...fillBlock(printer.endGcode, facts(slot)))
  return `${lines.join('\n')}\n`

  function drawBack(): void {
    if (!retracted[slot]) lines.push(`G1 ${extrude(-RETRACT_MM)} ${feed(RETRACT_MM_S)}`)
    retracted[slot] = true
  }

  function goTo(nx: number, ny: number, nz: number, newPiece: boolean): void {
    onBed(nx, ny)
    const away = Math.hypot(nx - x, ny - y)
    if (!newPiece && away <= LIFT_FROM_MM) {
      if (away > 0) lines.push(`G0 X${nx.toFixed(3)} Y${ny.toFixed(3)} ${feed(printer.travelMmS)}`)
    } else {
      const clear = Math.max(highest, nz) + CLEAR_MM
      if (Number.isFinite(x)) drawBack()
      if (z !== clear) lines.push(`G0 Z${clear.toFixed(3)} ${feed(LIFT_MM_S)}`)
      lines.push(`G0 X${nx.toFixed(3)} Y${ny.toFixed(3)} ${feed(printer.travelMmS)}`, `G0 Z${nz.toFixed(3)} ${feed(LIFT_MM_S)}`)
      if (retracted[slot]) lines.push(`G1 ${extrude(RETRACT_MM)} ${feed(RETRACT_MM_S)}`)
      retracted[slot] = false
    }
    ;[x, y, z] = [nx, ny, nz]
  }

  function onBed(px: number, py: number): void {
    if (px < 0 || py < 0 || px > printer.bedMm[0] || py > printer.bedMm[1])
      throw new TenderError('OFF_THE_BED', `A line of the coupon would be printed at ${px.toFixed(1)}, ${py.toFixed(1)} mm, off the bed of ${printer.name}.`)
  }
}

/** A comment must not end early and begin a command. */
const oneLine = (text: string) => text.replace(/[\r\n;]+/g, ' ')
