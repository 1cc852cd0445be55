import type { Decisions } from '../decide'
import { meshOfSolid, poseMesh, UPRIGHT, type Mesh, type SolidEngine } from '../mesh'
import { seeded, type Random } from './seeded'

/** Parts that nobody designed: a few simple bodies, turned anyhow, joined and cut; the largest piece. */
export function scatteredPart(solids: SolidEngine, seed: number): Mesh {
  const random = seeded(seed)
  const within = (low: number, high: number) => low + (high - low) * random.next()
  const body = () => {
    const one = bodyOf(solids, random, within)
    const turned =
      random.next() < 0.5
        ? one.rotate([within(-90, 90), within(-90, 90), within(0, 360)])
        : one.rotate([random.pick([0, 90]), random.pick([0, 90]), 0])
    return turned.translate([within(-12, 12), within(-12, 12), within(0, 20)])
  }
  let part = body()
  for (let n = 1 + Math.floor(random.next() * 4); n > 0; n--) part = part.add(body())
  for (let n = Math.floor(random.next() * 3); n > 0; n--) part = part.subtract(body())
  const [largest] = part.decompose().sort((a, b) => b.volume() - a.volume())
  return poseMesh(meshOfSolid(largest), UPRIGHT)
}

function bodyOf(
  { Manifold, CrossSection }: SolidEngine,
  random: Random,
  within: (low: number, high: number) => number,
) {
  const sides = random.pick([12, 24, 48])
  switch (random.pick(['box', 'rod', 'cone', 'ball', 'ring', 'tube'])) {
    case 'box':
      return Manifold.cube([within(4, 24), within(4, 24), within(2, 16)], true)
    case 'rod':
      return Manifold.cylinder(within(12, 34), within(0.8, 4), -1, sides, true)
    case 'cone':
      return Manifold.cylinder(within(4, 18), within(1, 5), within(4, 14), sides, true)
    case 'ball':
      return Manifold.sphere(within(4, 11), sides)
    case 'ring':
      return Manifold.revolve(CrossSection.circle(within(1.5, 4), sides).translate([within(7, 14), 0]), sides)
    default: {
      const [outer, wall, height] = [within(5, 11), within(1, 3), within(6, 18)]
      const hollow = Manifold.cylinder(height + 2, outer - wall, -1, sides, true)
      return Manifold.cylinder(height, outer, -1, sides, true).subtract(hollow)
    }
  }
}

/** Values of holding that go together somehow. */
export function scatteredDecisions(seed: number): Partial<Decisions> {
  const { pick } = seeded(seed + 1_000_000)
  const layerHeightMm = pick([0.12, 0.2, 0.28])
  const freeAngleDeg = pick([35, 45, 55])
  return {
    layerHeightMm,
    firstLayerHeightMm: pick([0.2, layerHeightMm]),
    lineWidthMm: pick([0.4, 0.45, 0.6]),
    freeAngleDeg,
    leanDeg: freeAngleDeg - 5,
    upperGapMm: pick([0.06, 0.13, 0.2, 0.3]),
    sideGapMm: pick([0.3, 0.6, 1]),
    marginMm: pick([0, 0.4, 1]),
    placement: pick(['bed', 'anywhere']),
    standKind: pick(['straight', 'branching']),
    standLines: pick(['separate', 'joined', 'crosswise']),
    standWalls: pick([0, 1, 2]),
    standDensity: pick([0.06, 0.12, 0.3]),
    denseTopMm: pick([0, 0, 2]),
    thickStands: pick([false, false, true]),
    interfaceLayers: pick([1, 2, 3]),
    interfaceSpacingMm: pick([0, 0.2]),
    interfaceLines: pick(['straight', 'crossed']),
    lowerInterfaceLayers: pick([0, 1]),
  }
}
