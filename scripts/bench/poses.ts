import { solidEngine } from '@tender/core/node'
import { demoParts, turnFaceDown } from '@tender/core/mesh'
import { burdenOf, createJudge, searchPoses, sphereDirections, type JudgeOptions } from '@tender/core/pose'

const OPTIONS: JudgeOptions = {
  freeAngleDeg: 48,
  sideAnglesDeg: null,
  layerHeightMm: 0.2,
  interfaceLayers: 3,
  standDensity: 0.12,
  scale: 1,
  show: null,
}

/** The pose search against a grid of 2000 poses, all judged in full. */
export async function benchPoses(): Promise<void> {
  const solids = await solidEngine()
  const rows: Record<string, string | number>[] = []
  for (const { name, mesh } of demoParts(solids)) {
    const start = performance.now()
    const [best] = await searchPoses(mesh, solids, OPTIONS)
    const found = performance.now()
    const judge = createJudge(mesh, OPTIONS)
    const grid = Math.min(...sphereDirections(2000).map((down) => burdenOf(judge(turnFaceDown(down)))))
    const end = performance.now()
    rows.push({
      part: name,
      'search ms': Math.round(found - start),
      'search / grid, cost': ((found - start) / (end - found)).toFixed(3),
      'search / grid, burden': (burdenOf(best) / grid).toFixed(3),
    })
  }
  console.table(rows)
  console.log('cost: wanted near 0.1. burden: wanted at most 1.02.')
}
