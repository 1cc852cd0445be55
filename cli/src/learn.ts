import { issueSentence, TakeOffFile, takeOffOf } from '@tender/contract'
import { TenderError } from '@tender/core'
import type { Family } from '@tender/core/bench'
import { bookOf, type PlanDocument } from '@tender/core/decide'
import { knownPairing, pairingSentence } from '@tender/core/pairing'
import { learntFrom, trialsOfTakeOffs } from '@tender/core/takeOff'
import { readTrialCsv, type Interval, type KnownTrial } from '@tender/core/trial'
import { Command } from 'commander'
import { readInput, readJson } from './files'
import { counted } from './words'

/** `tender learn take-off.json ...`: what prints that were taken off teach. */
export function learnCommand(): Command {
  return new Command('learn')
    .description('tell what take-offs teach: gaps, bonds, grams and minutes')
    .argument('<take-offs...>', 'take-offs as the app hands them out (JSON)')
    .option('--ladders <csv>', 'readings of gap ladders of the same pairing, to go with them')
    .option('--json', 'print the numbers as JSON')
    .action((files: string[], options: { json?: boolean; ladders?: string }) => {
      const read = files.map(readTakeOff)
      const takeOffs = read.map((file, n) => takeOffOf({ ...file, id: String(n + 1) }))
      const filaments = read.flatMap(({ document }) => document.filaments)
      const familyOf = (id: string): Family => filaments.find((one) => one.id === id)!.family
      const nameOf = (id: string) => filaments.find((one) => one.id === id)?.name ?? id
      const book = bookOf(read[0].document as unknown as PlanDocument)
      const fromPrints = trialsOfTakeOffs(takeOffs)
      const pairs = new Map(
        fromPrints.map(({ conditions: c }) => [`${c.partFilament.id}\n${c.supportFilament.id}`, c] as const),
      )
      const ladders = options.ladders === undefined ? [] : laddersFrom(options.ladders)
      const pairings = [...pairs.values()].map((conditions) => {
        const [part, touching] = [conditions.partFilament.id, conditions.supportFilament.id]
        const trials: KnownTrial[] = [
          ...ladders.map((ladder, n) => ({
            id: `ladder ${n + 1}`,
            name: ladder.trial,
            printedOn: '',
            conditions,
            kind: 'gap' as const,
            readings: ladder.readings,
          })),
          ...fromPrints,
        ]
        const known = knownPairing(
          { id: part, family: familyOf(part) },
          { id: touching, family: familyOf(touching) },
          trials,
          { book },
        )
        const { fit } = known
        return {
          part: nameOf(part),
          touching: nameOf(touching),
          readings: fit.readings,
          suggestedGapMm: fit.suggestedGapMm,
          windowMm: fit.windowMm,
          pTender: round(fit.pTender),
          releaseThresholdMm: rounded(fit.releaseThresholdMm),
          finishThresholdMm: rounded(fit.finishThresholdMm),
          sentence: pairingSentence(known),
        }
      })
      const learnt = learntFrom(takeOffs)
      const json = {
        takeOffs: takeOffs.length,
        pairings,
        followed: learnt.followed.map(({ part, touching, bulk, ...counts }) => ({
          part: nameOf(part),
          touching: nameOf(touching),
          bulk: nameOf(bulk),
          ...counts,
        })),
        grams: learnt.grams.map(({ filament, factor, weighings }) => ({
          filament: nameOf(filament),
          factor: rounded(factor),
          weighings,
        })),
        minutes: learnt.minutes && { ...learnt.minutes, factor: rounded(learnt.minutes.factor) },
      }
      process.stdout.write(options.json ? `${JSON.stringify(json)}\n` : inWords(json))
    })
}

/** @throws TenderError VALUE_OUT_OF_RANGE when it is no take-off, and as readJson does */
function readTakeOff(file: string): TakeOffFile {
  const parsed = TakeOffFile.safeParse(readJson(file))
  if (parsed.success) return parsed.data
  throw new TenderError(
    'VALUE_OUT_OF_RANGE',
    `"${file}" cannot be used as a take-off. ${issueSentence(parsed.error).message}`,
  )
}

/** Gap ladders of a file; rows that cannot be used are told. */
function laddersFrom(file: string) {
  const { trials, refused } = readTrialCsv(new TextDecoder().decode(readInput(file)))
  for (const { message } of refused) process.stderr.write(`${message}\n`)
  return trials.flatMap((trial) => (trial.kind === 'gap' ? [trial] : []))
}

const round = (value: number) => Number(value.toFixed(4))
const rounded = ({ median, low, high }: Interval) => ({
  median: round(median),
  low: round(low),
  high: round(high),
})

type Told = {
  pairings: readonly { part: string; touching: string; sentence: string }[]
  followed: readonly { touching: string; bulk: string; came: number; stayed: number }[]
  grams: readonly { filament: string; factor: Interval; weighings: number }[]
  minutes: { factor: Interval; takeOffs: number } | null
}

function inWords({ pairings, followed, grams, minutes }: Told): string {
  const times = ({ median, low, high }: Interval) =>
    `${median.toFixed(2)} times (${low.toFixed(2)} to ${high.toFixed(2)})`
  const lines = [
    ...pairings.map(({ part, touching, sentence }) =>
      part === touching ? `${part} on itself: ${sentence}` : `${part} over ${touching}: ${sentence}`,
    ),
    ...followed.map(
      ({ touching, bulk, came, stayed }) =>
        `Interface in ${touching} on stands of ${bulk}: came along at ${came} of ${counted(came + stayed, 'contact')}.`,
    ),
    ...grams.map(
      ({ filament, factor, weighings }) =>
        `${filament}: ${times(factor)} the grams planned, by ${counted(weighings, 'weighing')}.`,
    ),
    ...(minutes
      ? [
          `Taking off: ${times(minutes.factor)} the minutes guessed, by ${counted(minutes.takeOffs, 'take-off')}.`,
        ]
      : []),
  ]
  return lines.length > 0 ? `${lines.join('\n')}\n` : 'Nothing was read of these prints.\n'
}
