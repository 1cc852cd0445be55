import { supportGrams } from '@tender/core/estimate'
import { composeTurns, turnAbout, type Pose } from '@tender/core/mesh'
import type { PlanDocument } from '@tender/core/decide'
import type { PlanSummary } from '@tender/core/plan'
import { angleOfShare, hangingShare } from '@tender/core/units'
import { degrees, duration, gapMm, grams } from '../../format/numbers'

export type Way = { readonly label: string; readonly document: PlanDocument }

/**
 * As it is, thinner layers (whose limit follows from the hanging share), a limit five degrees wider, and a
 * turn by 45 degrees upright or over.
 */
export function waysOf(document: PlanDocument): Way[] {
  const { decisions: d, pose } = document
  const thin = Math.max(0.04, Math.round(d.layerHeightMm * 0.75 * 100) / 100)
  const thinAngle = Math.min(
    89,
    Math.floor(
      angleOfShare(hangingShare(d.freeAngleDeg, d.layerHeightMm, d.lineWidthMm), thin, d.lineWidthMm),
    ),
  )
  const wide = Math.min(89, d.freeAngleDeg + 5)
  const thinner = {
    ...d,
    layerHeightMm: thin,
    firstLayerHeightMm: thin,
    freeAngleDeg: thinAngle,
    sideAnglesDeg: null,
  }
  const turned = (turn: Pose['turn']): PlanDocument => ({
    ...document,
    pose: { ...pose, turn: composeTurns(turn, pose.turn) },
  })
  return [
    { label: 'As it is', document },
    {
      label: `${gapMm(thin)} layers, which hold ${degrees(thinAngle)}`,
      document: { ...document, decisions: thinner },
    },
    {
      label: `A free angle of ${degrees(wide)}`,
      document: {
        ...document,
        decisions: {
          ...d,
          freeAngleDeg: wide,
          sideAnglesDeg: d.sideAnglesDeg?.map((side) => Math.min(89, side + 5)) ?? null,
        },
      },
    },
    { label: 'Upside down', document: turned(turnAbout([1, 0, 0], 180)) },
    ...(d.sideAnglesDeg
      ? [{ label: 'Turned upright by 90°', document: turned(turnAbout([0, 0, 1], 90)) }]
      : [{ label: 'On its back', document: turned(turnAbout([1, 0, 0], 90)) }]),
  ]
}

/** Which change helps most, first in supports, then what it costs in time. */
export function whatHelps(labels: readonly string[], summaries: readonly (PlanSummary | null)[]): string {
  const [now, ...others] = summaries
  if (!now) return ''
  const first = supportGrams(now.estimate)
  let best = -1
  others.forEach((one, i) => {
    if (one && supportGrams(one.estimate) < (best < 0 ? first - 0.05 : supportGrams(others[best]!.estimate)))
      best = i
  })
  if (best < 0) return 'None of these would save support.'
  const [then, time] = [supportGrams(others[best]!.estimate), others[best]!.timeS - now.timeS]
  const longer =
    Math.abs(time) < 60
      ? 'in the same time'
      : time > 0
        ? `and takes ${duration(time)} longer`
        : `and is done ${duration(-time)} sooner`
  return `${labels[best + 1]} helps most: ${grams(then)} of supports instead of ${grams(first)}, ${longer}.`
}
