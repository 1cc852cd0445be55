import { purgesItself, sharesNozzle, type Printer } from '../bench'
import { TenderError } from '../errors'
import { PATH_KINDS, type ToolPaths } from '../path'
import { SAME_HEIGHT_MM } from '../tolerances'
import { clearancesOf } from './clearances'
import { drawnBackAfter, fillBlock } from './gcodeBlocks'
import { measurePrint, type PrintMeasure } from './measurePrint'
import { motionOf, type Motion } from './motion'
import { CLEAR_MM, isLifted, LIFT_MM_S, RETRACT_MM, retractMmS, wipeAfter } from './moveRules'
import { createPathMeasurer } from './pathMeasurer'
import { chuteBefore, levelOf, type Print, type Sweep } from './print'
import { slowDown, slower } from './slowDown'

/** Pieces of the file are given out at about this length. */
const CHUNK = 1 << 16
const END_LIFT_MM = 5
const BRIDGE = PATH_KINDS.indexOf('bridge')

/**
 * A print as G-code: the printer's own start, swap and end blocks around moves in absolute millimetres,
 * extrusion relative or absolute as the printer wants it. Given out piece by piece, however long it gets.
 *
 * What is purged at a swap is the swap block's own: the printer knows where it may. The block asks for
 * {purge} mm3 or {purgeLength} mm, which make up for what was drawn back as well; after one that pushes
 * filament it is drawn back here, so that no drop of it lands on the print. Between sweeps, and on longer
 * ways within one, the nozzle travels above the highest thing printed so far that may stand in its way.
 * @param measure what the print takes, when it is known already
 * @throws TenderError OFF_THE_BED when a line would leave the bed
 */
export function* writeGcode(
  print: Print,
  printer: Printer,
  measure: PrintMeasure = measurePrint(print, printer, createPathMeasurer()),
): Generator<string, void, undefined> {
  const { slots, tools, sweeps } = print
  const [zeroX, zeroY] = print.zeroMm
  let text = ''
  const say = (...lines: readonly string[]) => {
    for (const line of lines) text += `${line}\n`
  }
  const perMm = slots.map(({ diameterMm }) => 1 / ((Math.PI * diameterMm * diameterMm) / 4))
  const firstSlot = sweeps.find(({ paths }) => paths.kinds.length > 0)?.slot ?? 0
  const facts = (own: number, other: number, purge = 0) => ({
    // What lies on the bed decides its heat.
    bed: slots[firstSlot].bedC,
    nozzle: slots[own].nozzleC,
    tool: tools[own],
    other: tools[other],
    otherNozzle: slots[other].nozzleC,
    width: printer.bedMm[0],
    depth: printer.bedMm[1],
    height: printer.heightMm,
    purge: Number(purge.toFixed(3)),
    purgeLength: Number((purge * perMm[own]).toFixed(3)),
  })
  const anotherThan = (own: number) => {
    const found = slots.findIndex((_, s) => s !== own)
    return found < 0 ? own : found
  }

  const mm3 = slots.map((_, s) => measure.uses.reduce((sum, one) => sum + (one.slot === s ? one.mm3 : 0), 0))
  say(
    `; ${oneLine(print.title)}`,
    ...slots.map(({ name }, s) => `; tool ${tools[s]}: ${oneLine(name)}, ${mm3[s].toFixed(1)} mm3`),
    `; about ${Math.round(measure.timeS / 60)} min`,
    ...fillBlock(printer.startGcode, facts(firstSlot, anotherThan(firstSlot))),
    'G21',
    'G90',
    printer.extrusion === 'relative' ? 'M83' : 'M82',
    'G92 E0',
  )
  const motions = [true, false].map((first) => motionOf(printer, first, print.speedMmS, print.bridging?.mmS))
  const heights = numberedHeights(sweeps)
  const { toMm, withinMm } = clearancesOf(print)
  const retractSpeed = retractMmS(printer)
  let slot = firstSlot
  let [x, y, z] = [NaN, NaN, 0]
  let highest = 0
  let e = 0
  let fan = 0
  let doneS = 0
  let laid: { readonly paths: ToolPaths; readonly p: number } | null = null
  const slowed = { height: -1, motion: motions[1], waitS: 0 }
  const retracted = slots.map(() => false)
  let shown = { height: -1, role: '' as string, piece: null as string | null }

  for (let i = 0; i < sweeps.length; i++) {
    const sweep = sweeps[i]
    const { paths, bottomMm, topMm } = sweep
    if (measure.swapBefore[i] === 1) doneS += printer.swapS
    if (paths.kinds.length === 0) {
      doneS += measure.sweepS[i]
      continue
    }
    if (sweep.slot !== slot) {
      // A changer pulls the filament out anyway; a nozzle of its own waits drawn back.
      if (!sharesNozzle(printer)) drawBack()
      const backMm = retracted[sweep.slot] ? RETRACT_MM : 0
      const purge = chuteBefore(print, i, slot)
      const whole = purge > 0 ? purge + backMm / perMm[sweep.slot] : 0
      const block = fillBlock(printer.swapGcode, facts(sweep.slot, slot, whole))
      const leftMm = drawnBackAfter(block, { relative: printer.extrusion === 'relative', e, backMm })
      say(
        `G0 Z${(highest + CLEAR_MM).toFixed(3)} ${feed(LIFT_MM_S)}`,
        ...block,
        // What a swap block did to place and extrusion is not known; both start anew.
        'G90',
        printer.extrusion === 'relative' ? 'M83' : 'M82',
        'G92 E0',
      )
      ;[x, y, z, e] = [NaN, NaN, highest + CLEAR_MM, 0]
      slot = sweep.slot
      if (leftMm !== null) {
        if (leftMm < RETRACT_MM) say(`G1 ${extrude(leftMm - RETRACT_MM)} ${feed(retractSpeed)}`)
        retracted[slot] = true
      }
      // Whoever reads it back takes what follows a swap for the swap's, until a role is named.
      shown = { ...shown, role: '' }
    }
    const height = heights[i]
    if (height !== shown.height)
      say(
        `; layer ${height + 1} of ${heights[heights.length - 1] + 1}, z ${levelOf(sweep).toFixed(3)} mm, ${Math.max(0, Math.round((measure.timeS - doneS) / 60))} min left`,
      )
    if (sweep.role !== shown.role || height !== shown.height)
      say(`; ${sweep.role}, ${(topMm - bottomMm).toFixed(3)} mm thick`)
    if (sweep.piece !== null && sweep.piece !== shown.piece) say(`; step ${oneLine(sweep.piece)}`)
    shown = { height, role: sweep.role, piece: sweep.piece }
    const isCooled = bottomMm > 0 && bottomMm >= (print.fanFromMm ?? 0) - SAME_HEIGHT_MM
    const usual = isCooled ? print.fanPercent[sweep.role] : 0
    cool(usual)
    const motion = paceOf(i)
    const volumePerMm = print.lineWidthMm * (topMm - bottomMm) * perMm[slot]
    for (let p = 0; p < paths.kinds.length; p++) {
      const from = 2 * paths.starts[p]
      const to = 2 * paths.starts[p + 1]
      goTo(paths.xyMm[from] + zeroX, paths.xyMm[from + 1] + zeroY, topMm, p === 0 ? toMm[i] : withinMm[i])
      if (print.bridging) cool(isCooled && paths.kinds[p] === BRIDGE ? print.bridging.fanPercent : usual)
      const perLength = volumePerMm * paths.flow[p]
      let pace = ` ${feed(motion.speedsMmS[paths.kinds[p]])}`
      for (let at = from + 2; at < to; at += 2) {
        const [nx, ny] = [paths.xyMm[at] + zeroX, paths.xyMm[at + 1] + zeroY]
        onBed(nx, ny)
        const length = Math.hypot(nx - x, ny - y)
        if (length === 0) continue
        say(`G1 X${nx.toFixed(3)} Y${ny.toFixed(3)} ${extrude(length * perLength)}${pace}`)
        pace = ''
        ;[x, y] = [nx, ny]
      }
      laid = { paths, p }
      if (text.length > CHUNK) {
        yield text
        text = ''
      }
    }
    highest = Math.max(highest, topMm)
    doneS += measure.sweepS[i]
    if (slowed.waitS > 0 && heights[i + 1] !== height) say(`G4 P${Math.round(slowed.waitS * 1000)}`)
  }
  drawBack()
  say(
    `G0 Z${(highest + END_LIFT_MM).toFixed(3)} ${feed(LIFT_MM_S)}`,
    'M107',
    ...fillBlock(printer.endGcode, facts(slot, anotherThan(slot))),
  )
  yield text

  function cool(percent: number): void {
    const wanted = Math.round(2.55 * percent)
    if (wanted !== fan) say(wanted === 0 ? 'M107' : `M106 S${wanted}`)
    fan = wanted
  }

  function feed(mmS: number): string {
    return `F${Math.round(mmS * 60)}`
  }

  function extrude(mm: number): string {
    e = printer.extrusion === 'relative' ? mm : e + mm
    return `E${e.toFixed(5)}`
  }

  function drawBack(): void {
    if (!retracted[slot]) say(`G1 ${extrude(-RETRACT_MM)} ${feed(retractSpeed)}`)
    retracted[slot] = true
  }

  /** Rubs the nozzle off on the line it laid last. */
  function wipe(): void {
    if (!laid) return
    const { xyMm } = wipeAfter(laid.paths, laid.p, printer.wipeMm)
    for (let at = 0; at < xyMm.length; at += 2) {
      const pace = at === 0 ? ` ${feed(printer.travelMmS)}` : ''
      say(`G0 X${(xyMm[at] + zeroX).toFixed(3)} Y${(xyMm[at + 1] + zeroY).toFixed(3)}${pace}`)
    }
  }

  function goTo(nx: number, ny: number, nz: number, overMm: number): void {
    onBed(nx, ny)
    const away = Math.hypot(nx - x, ny - y)
    if (!isLifted(away) && z === nz) {
      if (away > 0) say(`G0 X${nx.toFixed(3)} Y${ny.toFixed(3)} ${feed(printer.travelMmS)}`)
    } else {
      const clear = Math.max(overMm, nz) + CLEAR_MM
      if (Number.isFinite(x)) {
        drawBack()
        wipe()
      }
      if (z !== clear) say(`G0 Z${clear.toFixed(3)} ${feed(LIFT_MM_S)}`)
      say(
        `G0 X${nx.toFixed(3)} Y${ny.toFixed(3)} ${feed(printer.travelMmS)}`,
        `G0 Z${nz.toFixed(3)} ${feed(LIFT_MM_S)}`,
      )
      if (retracted[slot]) say(`G1 ${extrude(RETRACT_MM)} ${feed(retractSpeed)}`)
      retracted[slot] = false
    }
    ;[x, y, z] = [nx, ny, nz]
  }

  /** Speeds for a sweep: slower where its height would be done too soon. */
  function paceOf(i: number): Motion {
    const usual = sweeps[i].bottomMm === 0 ? motions[0] : motions[1]
    if (!print.slowsDown) return usual
    if (slowed.height !== heights[i]) {
      let to = i
      let laidS = 0
      while (to < sweeps.length && heights[to] === heights[i]) laidS += measure.sweepS[to++]
      // What was slowed down takes exactly the least time; anything longer needs no look.
      if (laidS > printer.minLayerS + 1e-6)
        Object.assign(slowed, { height: heights[i], motion: usual, waitS: 0 })
      else {
        const own = sweeps.slice(i, to)
        const { factor, waitS } = slowDown(own, usual, waysS(i, to), printer.minLayerS)
        Object.assign(slowed, { height: heights[i], motion: slower(usual, factor), waitS })
      }
    }
    return slowed.motion
  }

  /** Time of a height that is spent between its sweeps. */
  function waysS(from: number, to: number): number {
    let ways = 0
    for (let j = from; j < to; j++) ways += measure.waysS[j]
    return ways
  }

  function onBed(px: number, py: number): void {
    if (px < 0 || py < 0 || px > printer.bedMm[0] || py > printer.bedMm[1])
      throw new TenderError(
        'OFF_THE_BED',
        `A line would be printed at ${px.toFixed(1)}, ${py.toFixed(1)} mm, off the bed of ${printer.name}.`,
        { xMm: px, yMm: py },
      )
  }
}

/**
 * Whether purging is asked for at swaps and the printer's own swap block does not do it: then nobody does.
 */
export const leavesPurge = ({ uses }: PrintMeasure, printer: Pick<Printer, 'swapGcode'>): boolean =>
  uses.some(({ role, mm3 }) => role === 'purge' && mm3 > 0) && !purgesItself(printer)

/** Per sweep: the number of its height, counted in the order of printing. */
function numberedHeights(sweeps: readonly Sweep[]): Int32Array {
  const numbers = new Int32Array(sweeps.length)
  for (let i = 1; i < sweeps.length; i++)
    numbers[i] =
      numbers[i - 1] + (Math.abs(levelOf(sweeps[i]) - levelOf(sweeps[i - 1])) < SAME_HEIGHT_MM ? 0 : 1)
  return numbers
}

/** A comment must not end early and begin a command. */
const oneLine = (text: string) => text.replace(/[\r\n;]+/g, ' ')
