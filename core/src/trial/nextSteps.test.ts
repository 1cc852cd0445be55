import { describe, expect, test } from '@jest/globals'
import { closeTo, seeded, type Random } from '../testing'
import {
  curveQuestion,
  fitGap,
  fitPurge,
  fitSpan,
  nextSteps,
  purgeQuestion,
  WEAK_GAP_PRIOR,
  type GapReading,
} from '.'

const sigmoid = (x: number) => 1 / (1 + Math.exp(-x))

describe('what to print next', () => {
  type Maker = { r: number; sr: number; f: number; sf: number }
  const draw = (random: Random): Maker => ({
    r: WEAK_GAP_PRIOR.release.middle + WEAK_GAP_PRIOR.release.spread * random.normal(),
    sr: Math.exp(Math.log(0.03) + 0.6 * random.normal()),
    f: WEAK_GAP_PRIOR.finish.middle + WEAK_GAP_PRIOR.finish.spread * random.normal(),
    sf: Math.exp(Math.log(0.03) + 0.6 * random.normal()),
  })
  const read = (random: Random, { r, sr, f, sf }: Maker, gaps: readonly number[]): GapReading[] =>
    gaps.map((gapMm) => ({
      gapMm,
      spacingMm: 0,
      release: random.next() < sigmoid((gapMm - r) / sr) ? 1 : 5,
      finish: random.next() < sigmoid((f - gapMm) / sf) ? 1 : 5,
      forceN: null,
      areaMm2: null,
    }))
  const candidates = Array.from({ length: 33 }, (_, i) => Math.round(i * 2.5) / 100)

  test('three tiles that are advised tell more than three at random: narrower intervals, and less lost by the gap that follows', () => {
    const random = seeded(23)
    const makers = 40
    const width = { advised: 0, any: 0 }
    const lost = { advised: 0, any: 0 }
    for (let i = 0; i < makers; i++) {
      const maker = draw(random)
      const first = read(random, maker, [0.1, 0.3])
      const { beliefs } = fitGap(first)
      const advised = nextSteps(
        [curveQuestion(beliefs.release), curveQuestion(beliefs.finish)],
        candidates,
        3,
      ).map(({ x }) => x)
      const any = [0, 1, 2].map(() => candidates[Math.floor(random.next() * candidates.length)])
      const best = Math.max(...candidates.map((gap) => tender(maker, gap)))
      for (const [name, gaps] of [
        ['advised', advised],
        ['any', any],
      ] as const) {
        const fit = fitGap([...first, ...read(random, maker, gaps)])
        width[name] +=
          fit.releaseThresholdMm.high -
          fit.releaseThresholdMm.low +
          fit.finishThresholdMm.high -
          fit.finishThresholdMm.low
        lost[name] += best - tender(maker, fit.suggestedGapMm)
      }
    }
    expect(width.advised / width.any).toBeLessThan(0.92)
    expect(lost.advised).toBeLessThan(lost.any)
  })
  const tender = ({ r, sr, f, sf }: Maker, gap: number) => sigmoid((gap - r) / sr) * sigmoid((f - gap) / sf)

  test('asks where it does not know yet, not where the answer is clear', () => {
    const spans = fitSpan([5, 10, 15, 40, 50, 60].map((spanMm) => ({ spanMm, grade: spanMm < 20 ? 1 : 5 })))
    const picks = nextSteps(
      [curveQuestion(spans.belief)],
      [4, 8, 12, 20, 25, 30, 45, 60, 80].map(Math.log),
      2,
    ).map(({ x }) => Math.exp(x))
    for (const span of picks) expect(span > 15 && span < 40).toBe(true)
  })

  test('bits are those of a fair coin when one outcome settles a coin toss, and shrink for what is known already', () => {
    const coin = {
      weights: Float64Array.of(0.5, 0.5),
      outcomes: () => [Float64Array.of(1, 0), Float64Array.of(0, 1)],
    }
    const [first, second] = nextSteps([coin], [1, 2], 2)
    closeTo(first.bits, 1, 1e-12)
    closeTo(second.bits, 0, 1e-12)
    const strips = nextSteps([purgeQuestion(fitPurge([]).swaps[0].belief)], [20, 80, 150, 400, 1500], 2)
    expect(strips[0].bits).toBeGreaterThan(strips[1].bits)
    expect(strips.map(({ x }) => x)).not.toContain(1500)
  })
})
