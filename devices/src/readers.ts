import { z } from 'zod'
import { truthOf, type Truth } from './truth'

const name = z.string().min(1).max(200)
const pair = { part: name, support: name }
const mm = z.number().min(0).max(500)

/** What can be asked of the devices that look, pull and weigh: one JSON object a line. */
export const Question = z.discriminatedUnion('ask', [
  z.object({ ask: z.literal('gap'), ...pair, gapMm: mm }),
  z.object({ ask: z.literal('fan'), part: name, angleDeg: z.number().min(0).max(90) }),
  z.object({ ask: z.literal('span'), part: name, spanMm: mm }),
  z.object({ ask: z.literal('purge'), ...pair, volumeMm3: z.number().min(0).max(10_000) }),
  z.object({ ask: z.literal('pull'), ...pair, gapMm: mm, areaMm2: z.number().min(0).max(1e6) }),
  z.object({ ask: z.literal('weigh'), part: name, partG: mm.max(1e5), wasteG: mm.max(1e5) }),
])
export type Question = z.infer<typeof Question>

/** Which device answers what. */
export const ASKED_OF = {
  look: ['gap', 'fan', 'span', 'purge'],
  gauge: ['pull'],
  scale: ['weigh'],
} as const satisfies Record<string, readonly Question['ask'][]>
export type Reader = keyof typeof ASKED_OF

/** How much one print differs from the next. */
const SCATTER = { gapMm: 0.02, angleDeg: 2.2, logSpan: 0.1, logLeft: 0.25, pull: 0.12, grams: 0.004 }
/** Share of the old filament up to which a strip is graded 1, 2, 3, 4. */
const LEFT_CUTS = [0.01, 0.03, 0.1, 0.3].map(Math.log)
/**
 * A step by so many scatters past what is true is graded one worse: up to 2 holds or lets go, up to 3 looks
 * well.
 */
const GRADE_CUTS = [-2, 0, 1.5, 3]
const FINISH_CUTS = [-3.5, -1.5, 0, 1.5]

/**
 * What a device reads: the truth, scattered.
 * @param random 0 to 1, anew each time
 */
export function answerTo(question: Question, random: () => number): Record<string, number> {
  const wavers = () => {
    const u = Math.min(1 - 1e-9, Math.max(1e-9, random()))
    return Math.log(u / (1 - u))
  }
  const graded = (latent: number, cuts = GRADE_CUTS) => 1 + cuts.filter((cut) => latent > cut).length
  const truth: Truth = truthOf(question.part, 'support' in question ? question.support : question.part)
  switch (question.ask) {
    case 'gap':
      return {
        release: graded((truth.letsGoMm - question.gapMm) / SCATTER.gapMm + wavers()),
        finish: graded((question.gapMm - truth.looksWellMm) / SCATTER.gapMm + wavers(), FINISH_CUTS),
      }
    case 'fan':
      return { grade: graded((question.angleDeg - truth.freeAngleDeg) / SCATTER.angleDeg + wavers()) }
    case 'span':
      return {
        grade: graded(
          Math.log(Math.max(0.1, question.spanMm) / truth.freeSpanMm) / SCATTER.logSpan + wavers(),
        ),
      }
    case 'purge': {
      const left =
        Math.min(0, -(question.volumeMm3 - truth.deadMm3) / truth.decayMm3) + SCATTER.logLeft * wavers()
      return { grade: 1 + LEFT_CUTS.filter((cut) => left > cut).length }
    }
    case 'pull': {
      const pull = truth.pullNPerMm2 * Math.exp(-question.gapMm / truth.pullFallsMm) * question.areaMm2
      return { forceN: Number((pull * Math.exp(SCATTER.pull * wavers())).toFixed(2)) }
    }
    case 'weigh': {
      const weighed = (g: number) =>
        Number((g * truth.gramsFactor * Math.exp(SCATTER.grams * wavers())).toFixed(2))
      return { partG: weighed(question.partG), wasteG: weighed(question.wasteG) }
    }
  }
}

/** One line in, one line out: what is not understood is told, never thrown. */
export function answerLine(line: string, reader: Reader, random: () => number): string {
  let raw: unknown
  try {
    raw = JSON.parse(line)
  } catch {
    return JSON.stringify({ ok: false, why: 'This line is no JSON.' })
  }
  const read = Question.safeParse(raw)
  if (!read.success || !(ASKED_OF[reader] as readonly string[]).includes(read.data.ask))
    return JSON.stringify({
      ok: false,
      why: `The stand-in ${reader} answers ${ASKED_OF[reader].join(', ')}.`,
    })
  return JSON.stringify({ ok: true, simulated: true, ...answerTo(read.data, random) })
}
