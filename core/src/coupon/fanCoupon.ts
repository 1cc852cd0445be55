import type { Manifold } from 'manifold-3d'
import type { SolidEngine } from '../mesh'
import { FULL_COMPASS, type CouponOf } from '../trial'
import { markSize, markSolid, markText } from './marks'
import { box, evenLayers, joined, MARK_LAYERS, markPiece, type CouponSize, type Piece } from './pieces'

/** How far an arm leans out at most. */
const REACH_MM = 14
const TALLEST_MM = 9
const BETWEEN_MM = 3

/**
 * An overhang fan: for each angle a post with one arm per direction, leaning out over nothing. Its angle
 * stands on top, and a short bar on the arm that looks north, to the back of the bed. Arms of one post
 * balance each other, so that none tips it over.
 * @param widthMm posts stand in rows no wider than this
 */
export function fanCoupon(
  engine: SolidEngine,
  coupon: CouponOf<'fan'>,
  size: CouponSize,
  widthMm: number,
): Piece[] {
  const { layerHeightMm: h, lineWidthMm: w } = size
  const layersUpTo = (mm: number) => Math.max(3, Math.round(mm / h))
  const footMm = layersUpTo(1) * h
  const armWidthMm = coupon.directions.length > 4 ? 4.5 : 6
  const pieces: Piece[] = []
  let [x, y, rowDepth] = [0, 0, 0]
  for (const angleDeg of coupon.anglesDeg) {
    const slope = Math.tan((angleDeg * Math.PI) / 180)
    const armMm = layersUpTo(Math.min(TALLEST_MM, slope > 0 ? REACH_MM / slope : TALLEST_MM)) * h
    const reach = Math.min(REACH_MM, armMm * slope)
    const text = markText(angleDeg)
    const mark = markSize(text, w)
    const radius = Math.max(5, Math.hypot(mark.widthMm, mark.heightMm) / 2 + w)
    const half = Math.max(radius + 3, radius + reach)
    if (x > 0 && x + 2 * half > widthMm) [x, y, rowDepth] = [0, y + rowDepth + BETWEEN_MM, 0]
    const [cx, cy] = [x + half, y + half]
    const top = footMm + armMm
    const solids = [
      engine.Manifold.cylinder(top, radius, radius, 64).translate([cx, cy, 0]),
      engine.Manifold.cylinder(footMm, radius + 3, radius + 3, 64).translate([cx, cy, 0]),
      ...coupon.directions.map((direction) =>
        arm(engine, bearing(direction), radius, reach, slope, footMm, armMm, armWidthMm).translate([
          cx,
          cy,
          0,
        ]),
      ),
    ]
    const solid = joined(engine, solids)
    const layers = Math.round(top / h)
    const common = {
      slot: 0,
      body: 'part',
      phase: (layer: number) => layer,
      lay: { kind: 'part', walls: 2, fillDensity: 0.15 },
    } as const
    pieces.push({ ...common, step: `fan:${angleDeg}`, solid, boundariesMm: evenLayers(0, layers, h) })
    const marks = [
      markSolid(engine, text, w, [cx - mark.widthMm / 2, cy - mark.heightMm / 2, top], MARK_LAYERS * h),
    ]
    if (coupon.directions.includes('north') && reach > 2)
      marks.push(
        box(engine, [cx - w, cy + radius + 0.4, top], [2 * w, Math.min(4, reach - 0.8), MARK_LAYERS * h]),
      )
    for (const solid of marks) pieces.push(markPiece(solid, 0, top, size, (layer) => layers + layer))
    x += 2 * half + BETWEEN_MM
    rowDepth = Math.max(rowDepth, 2 * half)
  }
  return pieces
}

/** Degrees from north, clockwise as seen from above; a side without a compass name looks east. */
const bearing = (direction: string) => {
  const at = FULL_COMPASS.indexOf(direction as (typeof FULL_COMPASS)[number])
  return at < 0 ? 90 : at * 45
}

/** A wedge whose underside leaves the post at the given slope and looks to the bearing. */
function arm(
  engine: SolidEngine,
  bearingDeg: number,
  radius: number,
  reach: number,
  slope: number,
  fromMm: number,
  heightMm: number,
  widthMm: number,
): Manifold {
  // Drawn from the side: x outwards, y upwards. Past the reach the end stands upright.
  const tip = slope > 0 ? reach / slope : heightMm
  const flat = Math.sqrt(Math.max(0, radius * radius - (widthMm / 2) ** 2))
  const profile: [number, number][] = [
    [0, 0],
    [flat, 0],
    [flat + reach, tip],
    ...(tip < heightMm - 1e-9 ? [[flat + reach, heightMm] as [number, number]] : []),
    [0, heightMm],
  ]
  return engine.Manifold.extrude([profile], widthMm)
    .translate([0, 0, -widthMm / 2])
    .rotate([90, 0, 0])
    .translate([0, 0, fromMm])
    .rotate([0, 0, 90 - bearingDeg])
}
