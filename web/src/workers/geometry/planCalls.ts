import type { PlanDocument } from '@tender/core/decide'
import {
  layerViewAt,
  outcomeOf,
  planBounds,
  planPrint,
  planRelease,
  printedOf,
  sectionOf,
  type Cuttable,
  type LayerView,
  type Outcome,
  type PlanGeometry,
  type PlanRelease,
  type PlanResult,
  type Section,
} from '@tender/core/plan'
import { laidGaps } from '@tender/core/readBack'
import type { ReleaseCheck } from '@tender/core/release'
import type { Printed } from '@tender/core/takeOff'
import { answer } from '../answer'
import { planSpace, type PlanSpace } from '../planSpace'
import { thePlanner } from './engines'
import { drawnOf, keepDrawn, meshOf, newId } from './kept'
import { polygonEngine } from './libraries'
import { lastBreath, stillNewest, take, watch, type OnProgress } from './running'

/** A plan that nobody waits for: given up as soon as a real one is asked for. */
async function thoughtOf(key: string, document: PlanDocument): Promise<PlanResult> {
  const isWanted = stillNewest()
  return (await thePlanner()).plan(key, meshOf(key), document, watch(isWanted))
}

/** What is asked about plans. */
export const planCalls = {
  /** Loads what plans are worked out with, for a plan that is about to be asked for. */
  getReady: () => answer(async () => void (await thePlanner())),

  /**
   * Runs a plan and keeps its shapes for drawing. A newer call, or cancel, stops it.
   * @param onShapes is told what can be drawn before lines are traced
   */
  plan: (
    ticket: number,
    key: string,
    document: PlanDocument,
    onProgress: OnProgress,
    onShapes?: (early: Cuttable) => void,
  ) =>
    answer(async (): Promise<Outcome> => {
      const isWanted = take(ticket)
      const early = (shapes: PlanGeometry, undersides: number) => {
        const id = newId('shapes')
        keepDrawn(id, shapes)
        const heightMm = shapes.layers.at(-1)!.topMm
        onShapes!({ id, bounds: planBounds(shapes), heightMm, undersides })
      }
      const result = await (
        await thePlanner()
      ).plan(key, meshOf(key), document, watch(isWanted, onProgress), onShapes && early)
      // A stop that was asked for during the last stretch still counts.
      await lastBreath(isWanted)
      keepDrawn(result.id, result.geometry)
      return outcomeOf(result)
    }),

  /** Whatever runs is no longer wanted. */
  cancel: () => void take(-1),

  /** The numbers of a plan that is only being thought about; given up as soon as a real one is asked for. */
  whatIf: (key: string, document: PlanDocument) =>
    answer(async () => (await thoughtOf(key, document)).summary),

  /** How its stands would come off. */
  whatIfReleased: (key: string, document: PlanDocument) =>
    answer(async () => planRelease(document, await thoughtOf(key, document))),

  /** A plan beside others, with how it comes off; given up as soon as a real one is asked for. */
  beside: (key: string, document: PlanDocument) =>
    answer(async (): Promise<Outcome & { readonly release: ReleaseCheck }> => {
      const result = await thoughtOf(key, document)
      keepDrawn(result.id, result.geometry)
      return { ...outcomeOf(result), release: planRelease(document, result, await polygonEngine()) }
    }),

  /** A cut of a result; null when it is forgotten. */
  section: (id: string, directionDeg: number, at: number): Section | null => {
    const geometry = drawnOf(id)
    return geometry ? sectionOf(geometry, directionDeg, at) : null
  },
  /** How the stands of a result come off; null when it is forgotten. */
  release: (id: string, document: PlanDocument, onShare?: (share: number) => void) =>
    answer(async (): Promise<PlanRelease | null> => {
      const result = (await thePlanner()).result(id)
      return result ? planRelease(document, result, await polygonEngine(), onShare) : null
    }),
  /** What is kept of a result that was printed; null when it is forgotten. */
  printed: (id: string, document: PlanDocument) =>
    answer(async (): Promise<Printed | null> => {
      const result = (await thePlanner()).result(id)
      return result ? printedOf(document, result, await polygonEngine()) : null
    }),
  /** Gaps as the lines of a result leave them; null when it is forgotten. */
  laidGaps: (id: string, document: PlanDocument) =>
    answer(async () => {
      const result = (await thePlanner()).result(id)
      return result ? laidGaps(planPrint(document, result.groups, result.geometry)) : null
    }),
  /** Stands and interface of a result as triangles. */
  space: (id: string) =>
    answer((): PlanSpace => {
      const geometry = drawnOf(id)
      return planSpace(geometry ?? { passes: [], towerLaid: null })
    }),
  layer: (id: string, zMm: number): LayerView | null => {
    const geometry = drawnOf(id)
    return geometry ? layerViewAt(geometry, zMm) : null
  },
}
