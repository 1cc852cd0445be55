import { UNHELD_WORDS, type Contact, type PlanSummary } from '@tender/core/plan'
import type { ReleaseCheck } from '@tender/core/release'
import type { UnheldReason } from '@tender/core/stand'
import type { Mark } from '../../drawings/space/Marks'
import type { Hit } from '../../drawings/space/PartBody'
import { three } from '../../format/numbers'

/** Less than this that stays free is not worth a mark. */
const MARKED_MM2 = 5

/** What stays free, each with a mark and why. */
export function marksOf({ contacts, islands }: PlanSummary): Mark[] {
  const free = contacts.flatMap((contact, i): Mark[] => {
    const mm2 = contact.wantedMm2 - contact.areaMm2
    if (mm2 < Math.max(MARKED_MM2, 0.1 * contact.wantedMm2)) return []
    const why = (Object.entries(contact.unheldMm2) as [UnheldReason, number][]).toSorted(
      (a, b) => b[1] - a[1],
    )[0]
    return [
      {
        key: `free ${i}`,
        text: '!',
        label: `${three(mm2)} mm² at ${contact.zMm.toFixed(2)} mm stay free${why ? `: ${UNHELD_WORDS[why[0]]}` : ''}`,
        atMm: [...contact.atMm, contact.zMm],
        strong: true,
      },
    ]
  })
  const loose = islands
    .filter(({ held }) => !held)
    .map(({ atMm, zMm }, i): Mark => ({
      key: `loose ${i}`,
      text: '!',
      label: `An island at ${zMm.toFixed(2)} mm starts in mid-air`,
      atMm: [...atMm, zMm],
      strong: true,
    }))
  return [...loose, ...free].slice(0, 60)
}

/** The underside at a place: of those at its height, the nearest. */
export function contactAt(contacts: readonly Contact[], [x, y, z]: Hit['atMm']): number | null {
  let best: number | null = null
  let nearest = Infinity
  contacts.forEach(({ zMm, topMm, atMm }, i) => {
    const rise = Math.max(0, zMm - z, z - topMm)
    const d = 8 * rise + Math.hypot(atMm[0] - x, atMm[1] - y)
    if (rise < 2 && d < nearest) {
      nearest = d
      best = i
    }
  })
  return best
}

/** The line of a way goes on beyond the part by so much, so that it shows where it comes from. */
const BEYOND_MM = 8

/** The ways of tools to stands that not any tool gets to: lines, with a mark where each begins. */
export function waysOf(check: ReleaseCheck | null): {
  /** Pairs of ends, x, y, z by turns. */
  readonly points: Float32Array
  readonly marks: readonly Mark[]
} {
  const ways = (check?.stands ?? []).filter(({ wayMm }) => wayMm.length > 1)
  const points: number[] = []
  const marks = ways.map(({ wayMm, reachMm, atMm }, i): Mark => {
    const [last, before] = [wayMm.at(-1)!, wayMm.at(-2)!]
    const far = Math.hypot(...last.map((value, axis) => value - before[axis])) || 1
    const end = last.map((value, axis) => value + (BEYOND_MM * (value - before[axis])) / far)
    const line = [...wayMm, end]
    for (let n = 1; n < line.length; n++) points.push(...line[n - 1], ...line[n])
    return {
      key: `way ${i}`,
      text: reachMm.toFixed(0),
      label: `Tools up to ${reachMm.toFixed(1)} mm wide get in here, to the stand at ${atMm[2].toFixed(0)} mm`,
      atMm: [end[0], end[1], end[2]],
      strong: false,
    }
  })
  return { points: Float32Array.from(points), marks }
}
