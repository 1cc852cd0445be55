/** @jest-environment jsdom */
import { expect, test } from '@jest/globals'
import { act } from '@testing-library/react'
import { newDocument, startFromEvidence, type BenchFacts, type PlanChange } from '@tender/core/decide'
import { aPrint, fanUpTo, named } from '@tender/core/testing'
import type { KnownTrial } from '@tender/core/trial'
import { hooked } from '../../testing/view'
import { usePast } from './usePast'
import { useWishes } from './useWishes'

const readUpTo = (limitDeg: number, filament: string): KnownTrial => ({
  id: `fan ${limitDeg}`,
  name: `Fan ${limitDeg}`,
  printedOn: '2026-11-14',
  kind: 'fan',
  conditions: aPrint({ partFilament: named(filament), supportFilament: named(filament) }),
  readings: fanUpTo(limitDeg),
})
const empty = newDocument({})
const trials = [readUpTo(57, empty.decisions.partFilament)]
const first = startFromEvidence(empty, trials)

function opened() {
  let facts: BenchFacts | undefined
  const { result, rerender } = hooked(() => {
    const past = usePast(first)
    return { ...past, wish: useWishes(past.now, past.change, facts) }
  })
  return {
    wish: (change: PlanChange) => act(() => result.current.wish(change)),
    undo: () => act(() => result.current.undo!()),
    fitted: () => {
      facts = { trials }
      rerender()
    },
    decisions: () => result.current.now.decisions,
  }
}

test('what is changed before the readings are fitted stands at once, and goes by them when they are', () => {
  const { wish, fitted, decisions } = opened()
  wish({ decisions: { layerHeightMm: 0.1 } })
  wish({ decisions: { upperGapMm: 0.31 } })
  expect(decisions()).toMatchObject({ layerHeightMm: 0.1, upperGapMm: 0.31 })
  expect(decisions().freeAngleDeg).toBe(first.decisions.freeAngleDeg)
  fitted()
  expect(decisions()).toMatchObject({ layerHeightMm: 0.1, upperGapMm: 0.31 })
  // Thin layers lean farther, by the same fan.
  const thin = decisions().freeAngleDeg
  expect(thin).toBeGreaterThan(first.decisions.freeAngleDeg)
  wish({ decisions: { layerHeightMm: 0.2 } })
  expect(decisions().freeAngleDeg).toBeLessThan(thin)
})

test('what was taken back before the readings came stays taken back', () => {
  const { wish, undo, fitted, decisions } = opened()
  wish({ decisions: { layerHeightMm: 0.1 } })
  undo()
  fitted()
  expect(decisions()).toEqual(first.decisions)
})
