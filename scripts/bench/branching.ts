import { polygonEngine, solidEngine } from '@tender/core/node'
import { newDocument, type Decisions } from '@tender/core/decide'
import { demoParts, type Mesh } from '@tender/core/mesh'
import { createPlanner } from '@tender/core/plan'
import { processorMs } from './best'

const PLASTIC_AIM = 0.65
const TIME_AIM = 1.5

/** Branching stands beside straight ones, on whole demo parts: plastic, and what a plan costs on one core. */
export async function benchBranching(): Promise<void> {
  const [solids, polygons] = [await solidEngine(), await polygonEngine()]
  const planned = async (name: string, mesh: Mesh, decisions: Partial<Decisions>) => {
    // Anywhere: from the bed alone, branches get to undersides that straight ones cannot.
    const document = newDocument({ decisions: { placement: 'anywhere', ...decisions } })
    const plan = () => createPlanner(polygons).plan(name, mesh, document)
    let shortest = Infinity
    for (let i = 0; i < 2; i++) shortest = Math.min(shortest, await processorMs(plan))
    const { summary } = await plan()
    const heldMm2 = summary.contacts.reduce((sum, { areaMm2 }) => sum + areaMm2, 0)
    return { heldMm2, standMm3: summary.estimate.roles.stand.mm3, ms: shortest }
  }
  const rows: Record<string, Record<string, string>> = {}
  for (const { name, mesh } of demoParts(solids)) {
    const straight = await planned(name, mesh, { standKind: 'straight' })
    for (const branches of ['slim', 'sturdy'] as const) {
      const { heldMm2, standMm3, ms } = await planned(name, mesh, { standKind: 'branching', branches })
      rows[`${name}, ${branches}`] = {
        'holds / straight': (heldMm2 / straight.heldMm2).toFixed(3),
        'stand plastic / straight': told(standMm3 / straight.standMm3, PLASTIC_AIM),
        'plan / straight': told(ms / straight.ms, TIME_AIM),
      }
    }
  }
  console.table(rows)
  console.log(
    `Whole parts, low undersides included. stand plastic: wanted at most ${PLASTIC_AIM} on undersides more than 25 mm above the bed. plan: processor time of the whole plan; wanted at most ${TIME_AIM}.`,
  )
}

const told = (share: number, aim: number): string => `${share.toFixed(2)}${share > aim ? ', missed' : ''}`
