import type { Manifold } from 'manifold-3d'
import { meshOfSolid, type Body3mf, type Mesh, type SolidEngine } from '../mesh'
import {
  EMPTY_REGION,
  isEmptyRegion,
  regionAreaMm2,
  splitPieces,
  stackEngine,
  ringCount,
  ringOf,
  sameRegion,
  type PolygonEngine,
  type Region,
  type RememberingEngine,
} from '../polygon'
import type { Checkpoint } from '../slice'
import type { SupportPass } from '../stand'
import { GRID_PER_MM, SAME_HEIGHT_MM } from '../tolerances'
import type { PlanGeometry } from '../plan'
import { withoutFlat } from './withoutFlat'
import { withoutTwofold } from './withoutTwofold'
import { apart } from './apart'
import { drawnApart } from './drawnApart'
import { leaningRounds } from './leaningRounds'
import { stackSolid, type Slab } from './stackSolid'

/** A region filled from one height to another; `rounds` when it is nothing but round sections. */
export type Filled = Pick<SupportPass, 'bottomMm' | 'topMm' | 'region' | 'rounds'>

/** Makes a solid of passes somewhere else, while another one is made here. */
export type SolidBeside = (passes: readonly Filled[]) => Promise<Mesh | null>
export type BodyEngines = {
  readonly polygons: PolygonEngine
  readonly solids: SolidEngine
  readonly beside?: SolidBeside
}

/** What a body is printed in. */
export type BodyFilament = { readonly id: string; readonly name: string; readonly colour: string }

export type BodyColours = {
  readonly part: string
  readonly stand: string
  readonly interface: string
  /** What each pass is printed in, where that is not the same for all of its role. */
  readonly of?: (pass: SupportPass) => BodyFilament
}

/** Bodies may stray this far sideways from the planned outlines; their heights are exact. */
const BODY_TOLERANCE_MM = 0.01
/** Triangles flatter than this are none. */
const FLAT_MM = 0.002
/**
 * Outlines that only touch are drawn apart by this much: a surface has no room for a line that four faces
 * meet.
 */
const APART_MM = 0.002

/**
 * The plan as bodies of their own: the part as posed, the stands and the interface layers with exactly the
 * heights and gaps planned; where exceptions print some of them in another filament, one body for each. Each
 * body of supports is one closed solid.
 */
export async function planBodies(
  { posed, passes }: PlanGeometry,
  { polygons, solids, beside }: BodyEngines,
  colours: BodyColours,
  checkpoint?: Checkpoint,
): Promise<Body3mf[]> {
  const planned = [...supportBodies(passes, 'stand', colours), ...supportBodies(passes, 'interface', colours)]
  const isBeside = planned.map(({ role }) => beside !== undefined && role === 'interface')
  const soon = (async () => {
    const made = new Map<SupportBody, Mesh | null>()
    for (const [n, body] of planned.entries()) if (isBeside[n]) made.set(body, await beside!(body.filled))
    return made
  })()
  // When one fails here first, nobody waits for the others any more.
  soon.catch(() => undefined)
  const here = planned.filter((_, n) => !isBeside[n])
  const meshes = new Map<SupportBody, Mesh | null>()
  for (const [n, body] of here.entries()) {
    // Only stands lean.
    const others =
      body.role === 'interface' ? [] : planned.flatMap((other) => (other === body ? [] : other.filled))
    const share: Checkpoint = (done, total) => checkpoint?.(n * total + done, here.length * total)
    meshes.set(body, await solidOfPasses(body.filled, polygons, solids, share, others))
  }
  for (const [body, mesh] of await soon) meshes.set(body, mesh)
  return [
    { name: 'Part', colour: colours.part, mesh: posed },
    ...planned.flatMap((body): Body3mf[] => {
      const mesh = meshes.get(body)
      return mesh ? [{ name: body.name, colour: body.colour, mesh }] : []
    }),
  ]
}

type SupportBody = {
  readonly role: 'stand' | 'interface'
  readonly name: string
  readonly colour: string
  readonly filled: readonly Filled[]
}

/** All that is stand, or all interface, by what it is printed in. */
function supportBodies(
  passes: readonly SupportPass[],
  role: SupportBody['role'],
  colours: BodyColours,
): SupportBody[] {
  const usual: BodyFilament = { id: '', name: '', colour: colours[role] }
  const bodies = new Map<string, { filament: BodyFilament; filled: Filled[]; isBrim: boolean }>()
  for (const pass of passes) {
    if ((pass.role === 'interface') !== (role === 'interface')) continue
    const filament = colours.of?.(pass) ?? usual
    const body = bodies.get(filament.id) ?? { filament, filled: [], isBrim: true }
    const { bottomMm, topMm, region, rounds } = pass
    body.filled.push({ bottomMm, topMm, region, rounds })
    body.isBrim &&= pass.role === 'brim'
    bodies.set(filament.id, body)
  }
  const word = role === 'interface' ? 'Interface' : 'Stand'
  const isOne = [...bodies.values()].filter(({ isBrim }) => !isBrim).length === 1
  return [...bodies.values()].map(({ filament: { name, colour }, filled, isBrim }) => ({
    role,
    name: isBrim ? 'Brim' : isOne ? word : `${word}, ${name}`,
    colour,
    filled,
  }))
}

/**
 * One closed solid of everything that lies between the heights given; null when that is nothing.
 * Overlaps count once; round sections that go on from height to height lean evenly.
 * @param beside what else is there, and must not be leant into
 */
export async function solidOfPasses(
  passes: readonly Filled[],
  polygons: PolygonEngine,
  solids: SolidEngine,
  checkpoint: Checkpoint,
  beside: readonly Filled[] = [],
): Promise<Mesh | null> {
  // What is the same from height to height, and from one try to the next, is worked out once.
  const engine = stackEngine(polygons)
  const slabs = slabsOf(passes, beside, engine)
  if (slabs.length === 0) return null
  const stacked = await stackSolid(slabs, engine, solids, checkpoint)
  const [{ mesh }] = stacked
  if (stacked.length === 1 && mesh) {
    const solid = solidOf(mesh, solids)
    return sound(solid ? inExactPlaces(simplified(solid), slabs) : apart(mesh))
  }
  const parts: Manifold[] = []
  try {
    for (const run of stacked)
      parts.push(
        (run.mesh && solidOf(run.mesh, solids)) ??
          (await joinSolids(
            run.slabs.map((slab) => prismOf(slab, solids)),
            checkpoint,
          )),
      )
  } catch (stopped) {
    for (const part of parts) part.delete()
    throw stopped
  }
  return sound(inExactPlaces(simplified(await joinSolids(parts, checkpoint)), slabs))
}

/** A closed surface as any reader of a file takes it, whether it joins corners at one place or not. */
const sound = (mesh: Mesh): Mesh => drawnApart(withoutTwofold(withoutFlat(mesh)))

/** The solid engine gives 32 bits of a number; heights are those of slabs, and corners lie on the grid. */
function inExactPlaces({ positionsMm, corners }: Mesh, slabs: readonly Slab[]): Mesh {
  const exact = new Map(
    slabs.flatMap(({ bottomMm, topMm }) => [bottomMm, topMm]).map((z) => [Math.fround(z), z]),
  )
  const exactMm = positionsMm.map((mm, i) =>
    i % 3 === 2 ? (exact.get(mm) ?? mm) : Math.round(mm * GRID_PER_MM) / GRID_PER_MM,
  )
  return { positionsMm: exactMm, corners }
}

/** A surface as the solid engine has it; null where it does not take it. */
function solidOf({ positionsMm, corners }: Mesh, solids: SolidEngine): Manifold | null {
  const vertProperties = Float32Array.from(positionsMm)
  try {
    return new solids.Manifold(new solids.Mesh({ numProp: 3, vertProperties, triVerts: corners }))
  } catch {
    return null
  }
}

/**
 * Cuts passes at each other's heights, so that none overlap; what goes on unchanged becomes one slab: a
 * straight stand is a prism, not a pile.
 */
function slabsOf(passes: readonly Filled[], beside: readonly Filled[], engine: RememberingEngine): Slab[] {
  const heights: number[] = []
  for (const z of passes.flatMap((pass) => [pass.bottomMm, pass.topMm]).sort((a, b) => a - b))
    if (heights.length === 0 || z - heights.at(-1)! > SAME_HEIGHT_MM) heights.push(z)
  const sharesHeight = (pass: Filled, bottomMm: number, topMm: number) =>
    pass.bottomMm < topMm - SAME_HEIGHT_MM && pass.topMm > bottomMm + SAME_HEIGHT_MM
  const roundsAt = leaningRounds(passes.filter(isRound), (pass) =>
    [...passes, ...beside]
      .filter((other) => other !== pass && sharesHeight(other, pass.bottomMm, pass.topMm))
      .map(({ region }) => region),
  )
  const slabs: { bottomMm: number; topMm: number; region: Region; upper: Region }[] = []
  const tidied = new Map<Region, Region>()
  for (let i = 0; i + 1 < heights.length; i++) {
    const [bottomMm, topMm] = [heights[i], heights[i + 1]]
    const here = passes.filter((pass) => sharesHeight(pass, bottomMm, topMm))
    if (here.length === 0) continue
    const plain = here.filter((pass) => !isRound(pass)).map((pass) => pass.region)
    const whole = plain.length === 1 ? plain[0] : engine.union(...plain)
    const tidy = tidied.get(whole) ?? tidyUp(whole, engine)
    tidied.set(whole, tidy)
    const own = isEmptyRegion(tidy) ? [] : splitPieces(tidy)
    const [region, upper] = [bottomMm, topMm].map((z) =>
      engine.joined([...own, ...here.filter(isRound).flatMap((pass) => roundsAt(pass, z))]),
    )
    if (isEmptyRegion(region)) continue
    const below = slabs.at(-1)
    const goesOn = below?.topMm === bottomMm && below.region === below.upper && region === upper
    if (goesOn && sameRegion(below.region, region)) below.topMm = topMm
    else slabs.push({ bottomMm, topMm, region, upper })
  }
  return slabs
}

const isRound = (pass: Filled): pass is Filled & { readonly rounds: Float64Array } =>
  pass.rounds !== undefined

function tidyUp(region: Region, polygons: PolygonEngine): Region {
  const open = polygons.grow(
    polygons.grow(polygons.thin(region, BODY_TOLERANCE_MM), -APART_MM, 'miter'),
    APART_MM / 2,
    'miter',
  )
  return regionAreaMm2(open) > 0.001 ? open : EMPTY_REGION
}

/** An upright prism; of one that leans, its outline half-way up. */
function prismOf({ bottomMm, topMm, region, upper = region }: Slab, solids: SolidEngine): Manifold {
  const xyMm = region.xyMm.map((mm, i) => (mm + upper.xyMm[i]) / 2)
  const flat = solids.Manifold.extrude(polygonsOf({ ...region, xyMm }), topMm - bottomMm)
  const placed = flat.translate([0, 0, bottomMm])
  flat.delete()
  return placed
}

/** Joins by booleans, neighbours first: always closed, but slow. What is joined is freed. */
async function joinSolids(parts: readonly Manifold[], checkpoint: Checkpoint): Promise<Manifold> {
  let list = [...parts]
  let done = 0
  while (list.length > 1) {
    const next: Manifold[] = []
    for (let i = 0; i + 1 < list.length; i += 2) {
      const sum = list[i].add(list[i + 1])
      // Asking for the result is what makes the engine work it out.
      sum.numTri()
      list[i].delete()
      list[i + 1].delete()
      next.push(sum)
      try {
        await checkpoint(++done, parts.length)
      } catch (stopped) {
        for (const solid of [...next, ...list.slice(i + 2)]) solid.delete()
        throw stopped
      }
    }
    if (list.length % 2 === 1) next.push(list.at(-1)!)
    list = next
  }
  return list[0]
}

/**
 * Edges shorter than a printer can place fall together, and with them the triangles that have no area. Frees
 * the solid.
 */
function simplified(solid: Manifold): Mesh {
  const fewer = solid.simplify(FLAT_MM)
  solid.delete()
  return meshOfSolid(fewer)
}

function polygonsOf(region: Region): [number, number][][] {
  return Array.from({ length: ringCount(region) }, (_, r) => {
    const ring = ringOf(region, r)
    return Array.from({ length: ring.length / 2 }, (_, p): [number, number] => [ring[2 * p], ring[2 * p + 1]])
  })
}
