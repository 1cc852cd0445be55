import { polygonEngine, solidEngine } from '@tender/core/node'
import { newDocument } from '@tender/core/decide'
import { demoParts } from '@tender/core/mesh'
import { createPlanner } from '@tender/core/plan'
import { checkPlastic } from '@tender/core/testing'

const GAPS_MM = [0.06, 0.13, 0.2, 0.3]
const LAYERS_MM = [0.12, 0.2, 0.28]
/** Share of what is wanted that is to be held by plastic at its gap. */
const AIM = 0.97

/**
 * What the lines of supports really hold, on the demo's parts: looked at by a checker that reads lines and
 * layers, and nothing of the areas that they were made from.
 */
export async function benchPlastic(): Promise<void> {
  const [solids, polygons] = [await solidEngine(), await polygonEngine()]
  for (const { name, mesh } of demoParts(solids)) {
    const rows: Record<string, Record<string, string>> = {}
    for (const layerHeightMm of LAYERS_MM) {
      const planner = createPlanner(polygons)
      for (const upperGapMm of GAPS_MM) {
        const { decisions } = newDocument({
          decisions: { placement: 'anywhere', layerHeightMm, firstLayerHeightMm: layerHeightMm, upperGapMm },
        })
        const { geometry, summary } = await planner.plan(name, mesh, newDocument({ decisions }))
        const { lineWidthMm, lowerGapMm, interfaceSpacingMm } = decisions
        const report = checkPlastic(geometry, {
          ...{ lineWidthMm, lowerGapMm, gapMm: upperGapMm, apartMm: interfaceSpacingMm },
        })
        const share = report.heldMm2 / report.wantedMm2
        const free = summary.contacts.flatMap(({ unheldMm2 }) => Object.values(unheldMm2))
        const freeShare = free.reduce((sum, mm2) => sum + mm2, 0) / report.wantedMm2
        rows[`${layerHeightMm.toFixed(2)} layers, ${upperGapMm.toFixed(2)} gap`] = {
          'held at the gap': `${(100 * share).toFixed(1)} %${share < AIM ? ', missed' : ''}`,
          'told free': `${(100 * freeShare).toFixed(1)} %`,
          'floating mm2': told(report.floatingMm2),
          'beside the part mm': told(report.sideContactMm),
          'end hangs mm': report.worstEndMm.toFixed(2),
          'spans mm': report.worstSpanMm.toFixed(2),
        }
      }
    }
    // Told as soon as it is known: all of them take some minutes.
    console.log(name)
    console.table(rows)
  }
  console.log(
    `held at the gap: share of what leans too far with plastic below it that ends within 0.02 mm of the gap; wanted at least ${100 * AIM} %. floating, and lines within 0.05 mm beside the part: wanted none. told free: what the plan itself says it leaves free, with place and reason.`,
  )
}

const told = (figure: number): string => (figure > 0 ? `${figure.toFixed(2)}, missed` : '0')
