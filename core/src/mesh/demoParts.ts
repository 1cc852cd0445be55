import type { Manifold } from 'manifold-3d'
import type { Mesh } from './mesh'
import { meshOfSolid, type SolidEngine } from './solids'

export type DemoPart = {
  readonly key: string
  readonly name: string
  readonly about: string
  readonly mesh: Mesh
}

/**
 * Parts of a small weather-station workshop, each with a support problem of its own. Sizes in mm, standing as
 * they would be printed.
 */
export function demoParts(engine: SolidEngine): DemoPart[] {
  return [
    {
      key: 'louvre-shield',
      name: 'Louvre shield plate',
      about: 'Stacked slanted rims: their tips begin in mid-air.',
      mesh: louvreShield(engine),
    },
    {
      key: 'funnel-cradle',
      name: 'Funnel cradle',
      about: 'A wide cone under a flat ring.',
      mesh: funnelCradle(engine),
    },
    {
      key: 'anemometer-cup',
      name: 'Anemometer cup',
      about: 'A rounded bowl on a short arm.',
      mesh: anemometerCup(engine),
    },
    {
      key: 'logger-pod',
      name: 'Logger pod',
      about: 'A box with a flat ceiling inside, open at one end.',
      mesh: loggerPod(engine),
    },
    { key: 'vane-pivot', name: 'Vane pivot', about: 'A heavy head on a thin neck.', mesh: vanePivot(engine) },
  ]
}

/** Adds the solids of a list and frees them. */
function addAll(engine: SolidEngine, solids: Manifold[]): Manifold {
  const sum = engine.Manifold.union(solids)
  for (const solid of solids) solid.delete()
  return sum
}

/** Takes the rest of the solids off the first, and frees them all. */
function takeOff(engine: SolidEngine, solids: Manifold[]): Manifold {
  const rest = engine.Manifold.difference(solids)
  for (const solid of solids) solid.delete()
  return rest
}

/** Turns a profile of [radius, height] points about the upright axis. */
function turned(engine: SolidEngine, profile: [number, number][], segments = 120): Manifold {
  return engine.Manifold.revolve([profile], segments)
}

function louvreShield(engine: SolidEngine): Mesh {
  const solids = [
    turned(engine, [
      [11, 0],
      [15.5, 0],
      [15.5, 44],
      [0, 44],
      [0, 40.5],
      [11, 40.5],
    ]),
  ]
  for (let i = 0; i < 3; i++) {
    const z = 15 + 13 * i
    solids.push(
      turned(engine, [
        [15, z],
        [15, z - 4],
        [33, z - 11.5],
        [33, z - 13],
        [38, z - 13],
        [38, z - 9],
        [34, z - 8],
      ]),
    )
  }
  return meshOfSolid(addAll(engine, solids))
}

function funnelCradle(engine: SolidEngine): Mesh {
  const bowl = turned(engine, [
    [10, 0],
    [13, 0],
    [13, 8],
    [34, 24],
    [46, 24],
    [46, 28],
    [32, 28],
    [10, 11],
  ])
  const slot = engine.Manifold.cube([6, 110, 10], true).translate([0, 0, 30])
  return meshOfSolid(takeOff(engine, [bowl, slot]))
}

function anemometerCup(engine: SolidEngine): Mesh {
  const ball = engine.Manifold.sphere(24, 120)
  const hollow = engine.Manifold.sphere(22, 120)
  const shell = takeOff(engine, [ball, hollow])
  const half = shell.trimByPlane([0, 0, -1], 0)
  shell.delete()
  const bowl = half.translate([0, 0, 24])
  half.delete()
  const arm = engine.Manifold.cube([22, 7, 5]).translate([21, -3.5, 17])
  return meshOfSolid(addAll(engine, [bowl, arm]))
}

function loggerPod(engine: SolidEngine): Mesh {
  const box = engine.Manifold.cube([64, 38, 30]).translate([-32, -19, 0])
  // Open at one end, where the lid goes.
  const room = engine.Manifold.cube([70, 33, 24]).translate([-29.5, -16.5, 3])
  const gland = engine.Manifold.cylinder(10, 4, 4, 48).rotate([0, 90, 0]).translate([-36, 0, 15])
  const pod = takeOff(engine, [box, room, gland])
  const eaves = engine.Manifold.cube([70, 44, 2.4]).translate([-35, -22, 27.6])
  return meshOfSolid(addAll(engine, [pod, eaves]))
}

function vanePivot(engine: SolidEngine): Mesh {
  const post = turned(
    engine,
    [
      [0, 0],
      [11, 0],
      [11, 3],
      [2.2, 12],
      [2.2, 26],
      [9, 30],
      [9, 38],
      [0, 38],
    ],
    96,
  )
  const blade = engine.Manifold.cube([40, 3, 10]).translate([4, -1.5, 28.5])
  const bore = engine.Manifold.cylinder(12, 1.6, 1.6, 36).translate([0, 0, 30])
  const whole = addAll(engine, [post, blade])
  return meshOfSolid(takeOff(engine, [whole, bore]))
}
