import type { Manifold } from 'manifold-3d'
import type { SolidEngine } from '../mesh'
import { joined } from './pieces'

/**
 * Strokes of the marks, on a grid 2 wide and 4 high: plain seven-part figures, and the few letters that
 * coupons need.
 */
const GLYPHS: Readonly<Record<string, readonly (readonly [number, number, number, number])[]>> = {
  '0': [
    [0, 0, 0, 4],
    [0, 4, 2, 4],
    [2, 4, 2, 0],
    [2, 0, 0, 0],
  ],
  '1': [[1, 0, 1, 4]],
  '2': [
    [0, 4, 2, 4],
    [2, 4, 2, 2],
    [2, 2, 0, 2],
    [0, 2, 0, 0],
    [0, 0, 2, 0],
  ],
  '3': [
    [0, 4, 2, 4],
    [2, 4, 2, 0],
    [0, 2, 2, 2],
    [0, 0, 2, 0],
  ],
  '4': [
    [0, 4, 0, 2],
    [0, 2, 2, 2],
    [2, 4, 2, 0],
  ],
  '5': [
    [2, 4, 0, 4],
    [0, 4, 0, 2],
    [0, 2, 2, 2],
    [2, 2, 2, 0],
    [2, 0, 0, 0],
  ],
  '6': [
    [2, 4, 0, 4],
    [0, 4, 0, 0],
    [0, 0, 2, 0],
    [2, 0, 2, 2],
    [2, 2, 0, 2],
  ],
  '7': [
    [0, 4, 2, 4],
    [2, 4, 2, 0],
  ],
  '8': [
    [0, 0, 0, 4],
    [0, 4, 2, 4],
    [2, 4, 2, 0],
    [2, 0, 0, 0],
    [0, 2, 2, 2],
  ],
  '9': [
    [2, 2, 0, 2],
    [0, 2, 0, 4],
    [0, 4, 2, 4],
    [2, 4, 2, 0],
    [2, 0, 0, 0],
  ],
  '-': [[0, 2, 1.4, 2]],
  '.': [[0.2, 0, 0.2, 0.3]],
  X: [
    [0, 0, 2, 4],
    [0, 4, 2, 0],
  ],
  Y: [
    [0, 4, 1, 2],
    [2, 4, 1, 2],
    [1, 2, 1, 0],
  ],
  Z: [
    [0, 4, 2, 4],
    [2, 4, 0, 0],
    [0, 0, 2, 0],
  ],
  N: [
    [0, 0, 0, 4],
    [0, 4, 2, 0],
    [2, 0, 2, 4],
  ],
  '/': [[0, 0, 1.6, 4]],
}

const widthOf = (letter: string) =>
  letter === '.' ? 0.4 : letter === '-' ? 1.4 : letter === '/' ? 1.6 : letter === '1' ? 1 : 2
const startOf = (letter: string) => (letter === '1' ? 1 : 0)

/** Width of a stroke: two lines side by side, so that it can be read on the print. */
export const strokeMm = (lineWidthMm: number): number => 2.02 * lineWidthMm

/** Scale of the glyph grid: the hollow of a figure stays at least two lines wide. */
const unitMm = (lineWidthMm: number) => Math.max(0.9, 1.9 * lineWidthMm)

export type MarkSize = { readonly widthMm: number; readonly heightMm: number }

/** Room a text takes. */
export function markSize(text: string, lineWidthMm: number): MarkSize {
  const unit = unitMm(lineWidthMm)
  const stroke = strokeMm(lineWidthMm)
  const gaps = Math.max(0, text.length - 1) * (stroke + lineWidthMm)
  const width = [...text].reduce((sum, letter) => sum + (letter === '1' ? 0 : widthOf(letter)) * unit, 0)
  return { widthMm: width + gaps + stroke, heightMm: 4 * unit + stroke }
}

/**
 * A text of figures as a solid: lower left corner at `at`, `thicknessMm` high. Letters that no coupon uses
 * are left out.
 */
export function markSolid(
  engine: SolidEngine,
  text: string,
  lineWidthMm: number,
  at: readonly [number, number, number],
  thicknessMm: number,
): Manifold {
  const unit = unitMm(lineWidthMm)
  const stroke = strokeMm(lineWidthMm)
  const strokes: Manifold[] = []
  let x = at[0] + stroke / 2
  for (const letter of text) {
    for (const [ax, ay, bx, by] of GLYPHS[letter] ?? []) {
      const [fx, fy, tx, ty] = [
        x + (ax - startOf(letter)) * unit,
        at[1] + stroke / 2 + ay * unit,
        x + (bx - startOf(letter)) * unit,
        at[1] + stroke / 2 + by * unit,
      ]
      const length = Math.hypot(tx - fx, ty - fy)
      const bar = engine.Manifold.cube([length + stroke, stroke, thicknessMm])
      strokes.push(
        bar
          .translate([-stroke / 2, -stroke / 2, 0])
          .rotate([0, 0, (Math.atan2(ty - fy, tx - fx) * 180) / Math.PI])
          .translate([fx, fy, at[2]]),
      )
    }
    x += (letter === '1' ? 0 : widthOf(letter)) * unit + stroke + lineWidthMm
  }
  return joined(engine, strokes)
}

/** A number as it stands on the print: no unit, no needless zeros. */
export const markText = (value: number): string => String(Number(value.toFixed(2)))
