import type { PlanRelease, PlanSummary } from '@tender/core/plan'
import type { CorrectedGrams } from '@tender/core/takeOff'
import type { PlanFigures } from './plan'

const round = (value: number, digits = 4) => Number(value.toFixed(digits))

/** The numbers of a plan as the command line prints them and the app exports them. Keys carry their unit. */
export function summaryJson(summary: PlanSummary) {
  const { part, estimate } = summary
  return {
    part: {
      triangles: part.triangles,
      volumeMm3: round(part.volumeMm3),
      watertight: part.watertight,
      sizeMm: part.sizeMm.map((side) => round(side)),
      openEdges: part.openEdges,
      shells: part.shells,
    },
    layers: summary.layers,
    heightMm: round(summary.heightMm),
    contacts: summary.contacts.map((contact) => ({
      zMm: round(contact.zMm),
      topMm: round(contact.topMm),
      kind: contact.kind,
      access: contact.access,
      wantedMm2: round(contact.wantedMm2, 2),
      areaMm2: round(contact.areaMm2, 2),
      gapMm: contact.gapMm,
      /** What is left in truth; null where nothing holds. */
      achievedGapMm: contact.achievedGapMm === null ? null : round(contact.achievedGapMm),
      unheldMm2: Object.fromEntries(
        Object.entries(contact.unheldMm2).map(([why, mm2]) => [why, round(mm2, 2)]),
      ),
    })),
    islands: summary.islands.map(({ zMm, areaMm2, held }) => ({
      zMm: round(zMm),
      areaMm2: round(areaMm2, 2),
      held,
    })),
    bridges: summary.bridges.map(({ zMm, spanMm, areaMm2, free }) => ({
      zMm: round(zMm),
      spanMm: round(spanMm, 2),
      areaMm2: round(areaMm2, 2),
      free,
    })),
    rests: summary.rests.map(({ levelMm, askedMm, gapMm, areaMm2 }) => ({
      zMm: round(levelMm),
      askedMm,
      gapMm: round(gapMm),
      areaMm2: round(areaMm2, 2),
    })),
    supportHeightsMm: Array.from(summary.supportHeightsMm, (z) => round(z)),
    recuts: summary.recuts.map(({ layerMm, gapMm, becomesMm, orMm, plannedLayers, interfaceLayers }) => ({
      layerMm,
      gapMm: round(gapMm),
      becomesMm: round(becomesMm),
      orMm: orMm === null ? null : round(orMm),
      plannedLayers,
      interfaceLayers,
    })),
    swaps: summary.swaps,
    swapLayers: summary.swapLayers,
    purges: {
      laidAnywayMm3: round(summary.purges.laidAnywayMm3, 2),
      towerMm3: round(summary.purges.towerMm3, 2),
      chuteMm3: round(summary.purges.chuteMm3, 2),
      /** As the part lies, its side and its height. */
      tower: summary.purges.tower && {
        atMm: summary.purges.tower.atMm.map((at) => round(at)),
        sideMm: summary.purges.tower.sideMm,
        topMm: round(summary.purges.tower.topMm),
      },
      /** Heights at which the part begins with more of another filament than it can bear. */
      leftovers: summary.purges.leftovers.map(({ zMm, share }) => ({ zMm: round(zMm), share: round(share) })),
    },
    roles: Object.fromEntries(
      Object.entries(estimate.roles).map(([role, { mm3, g }]) => [role, { mm3: round(mm3, 2), g: round(g) }]),
    ),
    filaments: estimate.filaments.map(({ name, mm3, g, m, cost }) => ({
      name,
      mm3: round(mm3, 2),
      g: round(g),
      m: round(m),
      cost: round(cost),
    })),
    massG: round(estimate.massG),
    wasteG: round(estimate.wasteG),
    cost: round(estimate.cost),
    timeS: round(summary.timeS, 1),
    swapTimeS: round(summary.swapTimeS, 1),
    pTender: summary.pTender === null ? null : round(summary.pTender, 3),
    warnings: summary.warnings.map(({ code, severity, message }) => ({ code, severity, message })),
  }
}

/** A plan's numbers in short, as stored beside it. */
export function figuresOf(summary: PlanSummary): PlanFigures {
  const { estimate, timeS, swapTimeS, swaps, pTender, warnings } = summary
  const { massG, wasteG, cost } = estimate
  return {
    massG,
    wasteG,
    cost,
    timeS,
    swapTimeS,
    swaps,
    pTender,
    errors: warnings.filter((warning) => warning.severity === 'error').length,
  }
}

/** How the stands of a plan come off, as the command line prints it and the app exports it. */
export const releaseJson = ({ verdict, stands }: PlanRelease) => ({
  verdict,
  stands: stands.map((stand) => ({
    atMm: stand.atMm.map((value) => round(value, 2)),
    verdict: stand.verdict,
    reachMm: round(stand.reachMm, 2),
    /** Corners of the way of such a tool, from the stand to outside; none where any tool gets to it. */
    wayMm: stand.wayMm.map((place) => place.map((value) => round(value, 1))),
    wayOut: stand.wayOut,
    pieces: stand.pieces,
    /** Null where no pull of its pairing was measured. */
    pullN: stand.pullN === null ? null : round(stand.pullN, 2),
    /** Push at its top that it stands while it is printed, by guesses; null where it stands on the part. */
    holdsN: stand.holdsN === null ? null : round(stand.holdsN, 2),
    neckMm: stand.neckMm === null ? null : round(stand.neckMm, 2),
    contactMm2: round(stand.contactMm2, 2),
    minutes: round(stand.minutes, 1),
    drains: stand.drains,
    reasons: stand.reasons,
    /** What would put them right, in words; the cheapest of a kind first. */
    remedies: stand.remedies.map(({ words }) => words),
  })),
})

/** Grams by what was weighed of other prints; null when nothing of these filaments was. */
export const weighedJson = (weighed: CorrectedGrams | null) =>
  weighed && {
    plannedG: round(weighed.plannedG, 2),
    massG: round(weighed.g.median, 2),
    lowG: round(weighed.g.low, 2),
    highG: round(weighed.g.high, 2),
    cost: round(weighed.cost, 4),
    filaments: weighed.filaments.map(({ id, name, plannedG, g }) => ({
      id,
      name,
      plannedG: round(plannedG, 2),
      massG: round(g.median, 2),
      lowG: round(g.low, 2),
      highG: round(g.high, 2),
    })),
  }
