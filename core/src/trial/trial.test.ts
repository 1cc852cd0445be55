import { describe, expect, test } from '@jest/globals'
import { clingGuess } from '../bench'
import { hangingShare, otherConvention } from '../units'
import { closeTo, seeded, type Random } from '../testing'
import {
  fanSentence,
  fitFan,
  fitGap,
  fitPull,
  gapPriorOf,
  gapSentence,
  tenderAt,
  WEAK_GAP_PRIOR,
  type FanReading,
  type GapReading,
  type Grade,
} from '.'

const sigmoid = (x: number) => 1 / (1 + Math.exp(-x))
const grade = (good: boolean): Grade => (good ? 1 : 5)

describe('free angle', () => {
  const [h, w] = [0.2, 0.45]
  const read = (
    random: Random,
    share: number,
    step: number,
    direction: string,
    angles: readonly number[],
  ): FanReading[] =>
    angles.map((angleDeg) => ({
      angleDeg,
      direction,
      layerHeightMm: h,
      lineWidthMm: w,
      grade: grade(random.next() < sigmoid((share - hangingShare(angleDeg, h, w)) / step)),
    }))
  const angles = [30, 35, 40, 45, 50, 55, 60, 65, 70]

  test('over simulated makers, nine intervals in ten hold the truth, and the cautious value is too high one time in ten', () => {
    const random = seeded(42)
    const makers = 500
    let inside = 0
    let tooHigh = 0
    for (let i = 0; i < makers; i++) {
      // Drawn from what the fit believes beforehand.
      const share = Math.exp(Math.log(0.6) + 0.55 * random.normal())
      const step = Math.exp(Math.log(0.06) + 0.7 * random.normal())
      const fit = fitFan(read(random, share, step, 'any', angles))
      if (fit.share.low <= share && share <= fit.share.high) inside++
      if (fit.share.cautious > share) tooHigh++
    }
    expect(inside / makers).toBeGreaterThan(0.86)
    expect(inside / makers).toBeLessThan(0.95)
    closeTo(tooHigh / makers, 0.1, 0.04)
  })

  test('sides are told apart by as much as the readings allow, and the worst is named', () => {
    const random = seeded(5)
    const readings = [
      ...read(random, 0.75, 0.02, 'east', angles),
      ...read(random, 0.75, 0.02, 'north', angles),
      ...read(random, 0.35, 0.02, 'west', angles),
    ]
    const fit = fitFan(readings)
    expect(fit.worst).toBe('west')
    const side = (name: string) => fit.directions.find((one) => one.direction === name)!.freeAngle
    // 0.35 of a line hangs at 38 degrees, 0.75 at 59; each is drawn a little towards the other.
    closeTo(side('west').medianDeg, 38, 5)
    closeTo(side('east').medianDeg, 59, 5)
    expect(side('east').medianDeg).toBeGreaterThan(side('west').highDeg)
    expect(fanSentence(fit)).toContain('Facing west it copes worst')
  })

  test('makers over four sides: the interval of every side holds the truth nine times in ten', () => {
    const random = seeded(9)
    let inside = 0
    let all = 0
    for (let i = 0; i < 60; i++) {
      const common = Math.log(0.6) + 0.55 * random.normal()
      const apart = Math.abs(0.15 * random.normal())
      const step = Math.exp(Math.log(0.06) + 0.7 * random.normal())
      const truth = new Map(
        ['north', 'east', 'south', 'west'].map((name) => [name, Math.exp(common + apart * random.normal())]),
      )
      const fit = fitFan([...truth].flatMap(([name, share]) => read(random, share, step, name, angles)))
      for (const { direction, share } of fit.directions) {
        all++
        if (share.low <= truth.get(direction)! && truth.get(direction)! <= share.high) inside++
      }
    }
    expect(inside / all).toBeGreaterThan(0.85)
    expect(inside / all).toBeLessThan(0.97)
  })

  test('more readings narrow the interval, none leave the starting guess, a milder maker gets a larger angle', () => {
    const readings = read(seeded(1), 0.6, 0.05, 'any', angles)
    const width = (fit: ReturnType<typeof fitFan>) => fit.freeAngle.highDeg - fit.freeAngle.lowDeg
    expect(width(fitFan([...readings, ...read(seeded(2), 0.6, 0.05, 'any', angles)]))).toBeLessThan(
      width(fitFan(readings)),
    )
    expect(width(fitFan([]))).toBeGreaterThan(2 * width(fitFan(readings)))
    expect(fanSentence(fitFan([]))).toContain('starting guess')
    const graded = angles.map((angleDeg, i): FanReading => ({
      angleDeg,
      direction: 'any',
      layerHeightMm: h,
      lineWidthMm: w,
      grade: Math.min(5, 1 + Math.floor(i / 2)) as Grade,
    }))
    expect(fitFan(graded, { accept: 3, caution: 0.1 }).freeAngle.medianDeg).toBeGreaterThan(
      fitFan(graded, { accept: 1, caution: 0.1 }).freeAngle.medianDeg + 5,
    )
  })

  test('the hanging share carries an angle to another layer: thinner layers hold steeper', () => {
    // tan a = u w / h: half the layer, twice the tangent.
    closeTo(hangingShare(45, 0.2, 0.4), 0.5, 1e-12)
    closeTo(hangingShare((Math.atan(2) * 180) / Math.PI, 0.1, 0.4), 0.5, 1e-12)
    expect(otherConvention(52)).toBe(38)
  })
})

describe('release window', () => {
  type Maker = { r: number; sr: number; f: number; sf: number }
  const gaps = [0, 0.05, 0.1, 0.15, 0.2, 0.25, 0.3, 0.35, 0.4]
  const draw = (random: Random): Maker => ({
    r: WEAK_GAP_PRIOR.release.middle + WEAK_GAP_PRIOR.release.spread * random.normal(),
    sr: Math.exp(Math.log(0.03) + 0.6 * random.normal()),
    f: WEAK_GAP_PRIOR.finish.middle + WEAK_GAP_PRIOR.finish.spread * random.normal(),
    sf: Math.exp(Math.log(0.03) + 0.6 * random.normal()),
  })
  const tender = ({ r, sr, f, sf }: Maker, gap: number) => sigmoid((gap - r) / sr) * sigmoid((f - gap) / sf)
  const read = (random: Random, { r, sr, f, sf }: Maker): GapReading[] =>
    gaps.map((gapMm) => ({
      gapMm,
      spacingMm: 0,
      release: grade(random.next() < sigmoid((gapMm - r) / sr)),
      finish: grade(random.next() < sigmoid((f - gapMm) / sf)),
      forceN: null,
      areaMm2: null,
    }))

  test('over simulated makers the intervals hold both edges nine times in ten, and the suggested gap loses little', () => {
    const random = seeded(17)
    const makers = 400
    let release = 0
    let finish = 0
    let lost = 0
    for (let i = 0; i < makers; i++) {
      const maker = draw(random)
      const fit = fitGap(read(random, maker))
      if (fit.releaseThresholdMm.low <= maker.r && maker.r <= fit.releaseThresholdMm.high) release++
      if (fit.finishThresholdMm.low <= maker.f && maker.f <= fit.finishThresholdMm.high) finish++
      let best = 0
      for (let gap = 0; gap <= 0.8; gap += 0.005) best = Math.max(best, tender(maker, gap))
      lost += best - tender(maker, fit.suggestedGapMm)
    }
    for (const share of [release / makers, finish / makers]) {
      expect(share).toBeGreaterThan(0.86)
      expect(share).toBeLessThan(0.95)
    }
    expect(lost / makers).toBeLessThan(0.06)
  })

  test('the suggested gap is the peak, and the window is where at least four fifths of it are reached', () => {
    const fit = fitGap(read(seeded(3), { r: 0.12, sr: 0.02, f: 0.3, sf: 0.02 }))
    closeTo(fit.suggestedGapMm, 0.21, 0.03)
    for (const gap of fit.windowMm)
      expect(tenderAt(fit, gap)).toBeGreaterThanOrEqual(0.8 * fit.pTender - 1e-9)
    expect(tenderAt(fit, fit.windowMm[0] - 0.01)).toBeLessThan(0.8 * fit.pTender)
    expect(tenderAt(fit, fit.windowMm[1] + 0.01)).toBeLessThan(0.8 * fit.pTender)
    expect(gapSentence(fit)).toMatch(
      /^Leave 0\.\d\d mm\. Anything from 0\.\d\d to 0\.\d\d both lets go and looks fine\.$/,
    )
  })

  test('where no gap works it says so instead of naming a window', () => {
    const hopeless = gaps.map((gapMm): GapReading => ({
      gapMm,
      spacingMm: 0,
      release: grade(gapMm > 0.3),
      finish: grade(gapMm < 0.1),
      forceN: null,
      areaMm2: null,
    }))
    expect(gapSentence(fitGap(hopeless))).toContain('No gap works well here')
  })

  test('an open interface lets go earlier: readings of two spacings are not thrown together', () => {
    const at = (spacingMm: number, from: number) =>
      gaps.map((gapMm): GapReading => ({
        gapMm,
        spacingMm,
        release: grade(gapMm >= from),
        finish: 2,
        forceN: null,
        areaMm2: null,
      }))
    const solid = fitGap([...at(0, 0.2), ...at(0, 0.2)])
    const both = fitGap([...at(0, 0.2), ...at(0, 0.2), ...at(0.5, 0.05)])
    expect(both.spacingMm).toBe(0)
    closeTo(both.releaseThresholdMm.median, solid.releaseThresholdMm.median, 0.05)
  })

  test('lines count as open by the width they were laid with, not by that of who asks', () => {
    const tiles = (spacingMm: number, lineWidthMm: number): GapReading[] =>
      [0, 0.1, 0.2, 0.3].map((gapMm) => ({
        gapMm,
        spacingMm,
        lineWidthMm,
        release: gapMm > 0.15 ? 1 : 5,
        finish: 2,
        forceN: 6,
        areaMm2: 100,
      }))
    // Half of the face is open in both: the same is known, whatever width is asked for.
    const [fine, wide] = [
      [...tiles(0, 0.4), ...tiles(0.4, 0.4)],
      [...tiles(0, 0.8), ...tiles(0.8, 0.8)],
    ]
    expect(fitGap(fine).releaseThresholdMm).toEqual(fitGap(wide).releaseThresholdMm)
    expect(fitGap(fine, { lineWidthMm: 0.8 })).toEqual(fitGap(fine, { lineWidthMm: 0.2 }))
    expect(fitPull(fine, 0.2)).toEqual(fitPull(wide, 0.9))
    // Of lines twice as wide at the same spacing less is open, so they tell another threshold.
    const less = [...tiles(0, 0.8), ...tiles(0.4, 0.8)]
    expect(fitGap(less).releaseThresholdMm.median).not.toBe(fitGap(fine).releaseThresholdMm.median)
  })

  test('a tile that would not come off counts for the release and leaves the face open', () => {
    const fit = fitGap([{ gapMm: 0.1, spacingMm: 0, release: 5, finish: null, forceN: null, areaMm2: null }])
    const before = fitGap([])
    expect(fit.releaseThresholdMm.median).toBeGreaterThan(before.releaseThresholdMm.median)
    expect(fit.finishThresholdMm).toEqual(before.finishThresholdMm)
  })

  test('without readings the pairing’s families speak: the weaker they cling, the smaller the gap', () => {
    const start = (a: Parameters<typeof clingGuess>[0], b: Parameters<typeof clingGuess>[1]) =>
      fitGap([], { prior: gapPriorOf(clingGuess(a, b).cling) }).suggestedGapMm
    expect(start('PLA', 'PP')).toBeLessThan(start('PLA', 'PVA'))
    expect(start('PLA', 'PVA')).toBeLessThan(start('PLA', 'PLA'))
    expect(clingGuess('PETG', 'PLA')).toEqual(clingGuess('PLA', 'PETG'))
    expect(clingGuess('PC', 'TPU')).toEqual({ cling: 2, known: false })
    expect(gapSentence(fitGap([]))).toContain('starting guess')
  })
})
