import { beforeAll, describe, expect, test } from '@jest/globals'
import { polygonEngine, solidEngine } from '../../node'
import type { SolidEngine } from '../mesh'
import { createPlanner } from '../plan'
import type { PolygonEngine } from '../polygon'
import { aPlan, checkPlastic, leansTooFarAt, scatteredDecisions, scatteredPart } from '../testing'

let engine: PolygonEngine
let solids: SolidEngine
beforeAll(async () => void ([engine, solids] = [await polygonEngine(), await solidEngine()]))

describe('parts and values that nobody thought of, their lines looked at pixel by pixel', () => {
  test.each([6, 20, 25, 412, 7031])(
    'part %d: nothing begins on nothing or touches the part beside it, and what is called held is held',
    async (seed) => {
      const document = aPlan(scatteredDecisions(seed))
      const result = await createPlanner(engine).plan('part', scatteredPart(solids, seed), document)
      const { lineWidthMm, upperGapMm, lowerGapMm, interfaceSpacingMm } = document.decisions
      const report = checkPlastic(result.geometry, {
        lineWidthMm,
        gapMm: upperGapMm,
        lowerGapMm,
        apartMm: interfaceSpacingMm,
      })
      expect(report.wantedMm2).toBeGreaterThan(50)
      expect(report.heldMm2).toBeGreaterThan(0.75 * report.wantedMm2)
      expect(report.floatingMm2).toBe(0)
      // Of metres of lines right beside the part: what pixels and thinned outlines make of 0.065 mm.
      expect(report.sideContactMm).toBeLessThan(4)
      expect(report.worstEndMm).toBeLessThan(2)
      expect(report.worstSpanMm).toBeLessThan(document.decisions.supportSpanMm)
      const { contacts } = result.summary
      const sum = (pick: (contact: (typeof contacts)[number]) => number) =>
        contacts.reduce((all, contact) => all + pick(contact), 0)
      const [wanted, held] = [sum(({ wantedMm2 }) => wantedMm2), sum(({ areaMm2 }) => areaMm2)]
      const named = sum(({ unheldMm2 }) => Object.values(unheldMm2).reduce((all, mm2) => all + mm2, 0))
      expect(report.heldMm2).toBeGreaterThan(0.98 * held)
      expect(Math.abs(held + named - wanted)).toBeLessThan(0.02 * wanted)
    },
  )

  test.each([6, 14, 24])(
    'part %d: branching stands never reach out beyond what is laid below them by more than their lean',
    async (seed) => {
      const decisions = scatteredDecisions(seed)
      const document = aPlan({
        ...decisions,
        standKind: 'branching',
        placement: 'bed',
        thickStands: false,
      })
      const result = await createPlanner(engine).plan('part', scatteredPart(solids, seed), document)
      const tops = result.geometry.passes.map(({ topMm }) => topMm)
      expect(tops.length).toBeGreaterThan(50)
      expect(tops).toEqual([...tops].sort((a, b) => a - b))
      expect(leansTooFarAt(result, document.decisions.leanDeg, engine)).toEqual([])
    },
  )
})
