import { figuresOf, type BetterFound, type BetterInput, type BetterSearch } from '@tender/contract'
import { TenderError } from '@tender/core'
import {
  holdsAsMuch,
  nothingBeats,
  pairsOf,
  type PlanDocument,
  type Standing,
  type Variation,
} from '@tender/core/decide'
import type { Mesh } from '@tender/core/mesh'
import { polygonEngine } from '@tender/core/node'
import { createPlanner, planRelease, type Planner } from '@tender/core/plan'
import type { JobKind } from '../jobs/kind'
import type { JobState } from '../jobs/repo'

type Work = Pick<Variation, 'words'> & { readonly document: unknown; readonly single: number | null }
type Outcome = Pick<BetterFound, 'figures' | 'release' | 'unsteady' | 'unheldMm2'>
/** Null where the variation cannot be planned at all. */
type Result = { readonly outcome: Outcome | null }

const PAIRS = 10
const RANK = { 'comes out whole': 0, 'comes out in pieces': 1, 'locked in': 2 } as const

const standingOf = ({ figures, release, unsteady, unheldMm2 }: Outcome): Standing => ({
  massG: figures.massG,
  timeS: figures.timeS,
  pTender: figures.pTender,
  release: RANK[release],
  errors: figures.errors,
  // Searches of an earlier day did not ask.
  unsteady: unsteady ?? false,
  unheldMm2,
})

/** Planners by mesh: variations of one part share their layers and what needs holding. */
const planners = new WeakMap<Mesh, Promise<Planner>>()
function plannerOf(mesh: Mesh): Promise<Planner> {
  let planner = planners.get(mesh)
  if (!planner) planners.set(mesh, (planner = polygonEngine().then((engine) => createPlanner(engine))))
  return planner
}

/** The search for better plans: everything changed in one thing, then what nothing beats changed in two. */
export const BETTER_PLANS: JobKind<BetterInput, Work, Result> = {
  name: 'better',
  first: ({ variations }) => variations.map(({ words, document }, single) => ({ words, document, single })),
  next(batches, round, input) {
    if (round > 0) return null
    const singles = batches.flatMap(({ work, results }) =>
      results?.outcome && work.single !== null
        ? [
            {
              variation: input.variations[work.single] as unknown as Variation,
              standing: standingOf(results.outcome),
            },
          ]
        : [],
    )
    const pairs = pairsOf(singles, PAIRS)
    return pairs.length === 0
      ? null
      : { round: 1, batches: pairs.map(({ words, document }) => ({ words, document, single: null })) }
  },
  progress: (round, share) => (round === 0 ? share * 0.7 : 0.7 + share * 0.3),
  async run({ document }, _round, _input, { mesh, meshKey }) {
    const plan = document as PlanDocument
    try {
      const result = await (await plannerOf(mesh)).plan(meshKey, mesh, plan)
      return {
        outcome: {
          figures: figuresOf(result.summary),
          release: planRelease(plan, result).verdict,
          unsteady: result.summary.warnings.some(({ code }) => code === 'UNSTEADY'),
          unheldMm2: result.summary.contacts.reduce(
            (sum, { wantedMm2, areaMm2 }) => sum + Math.max(0, wantedMm2 - areaMm2),
            0,
          ),
        },
      }
    } catch (error) {
      // One variation that cannot be is no reason to give up the others.
      if (error instanceof TenderError) return { outcome: null }
      throw error
    }
  },
}

/** A search as it goes over the wire. */
export function betterSearchOf(state: JobState<BetterInput, Work, Result>): BetterSearch {
  const { batches, input, ...rest } = state
  const done = batches.flatMap(({ work, results }) =>
    results?.outcome
      ? [
          {
            ...results.outcome,
            words: work.words,
            single: work.single,
            document: work.document as BetterFound['document'],
            standing: standingOf(results.outcome),
          },
        ]
      : [],
  )
  const told = ({
    words,
    figures,
    release,
    unsteady,
    unheldMm2,
    document,
  }: (typeof done)[number]): BetterFound => ({
    words,
    figures,
    release,
    unsteady,
    unheldMm2,
    document,
  })
  const asItIs = done.find(({ single }) => single !== null && input.variations[single].subject === 'nothing')
  return {
    ...rest,
    planId: input.planId,
    tried: done.length,
    refused: batches.filter(({ results }) => results && results.outcome === null).length,
    asItIs: asItIs ? told(asItIs) : null,
    found: nothingBeats(done.filter(({ standing }) => !asItIs || holdsAsMuch(standing, asItIs.standing)))
      .map(told)
      .sort((a, b) => a.figures.timeS - b.figures.timeS),
  }
}
