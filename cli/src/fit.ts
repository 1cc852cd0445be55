import {
  FAN_DEFAULTS,
  fanSentence,
  fitFan,
  fitGap,
  fitOffset,
  fitPull,
  fitPurge,
  fitSpan,
  gapSentence,
  hedged,
  offsetSentence,
  pullAt,
  purgeSentence,
  readTrialCsv,
  spanSentence,
  whatIsMissing,
  type CsvTrial,
  type Grade,
  type Interval,
} from '@tender/core/trial'
import { Command, InvalidArgumentError } from 'commander'
import { readInput } from './files'
import { counted } from './words'

const grade = (text: string): Grade => {
  const value = Number(text)
  if (!Number.isInteger(value) || value < 1 || value > 5)
    throw new InvalidArgumentError('Grades are whole numbers from 1 to 5.')
  return value as Grade
}

/** `tender fit readings.csv`: what printed tests say. */
export function fitCommand(): Command {
  return new Command('fit')
    .description('turn the readings of fans, ladders and combs into limits')
    .argument('<readings>', 'CSV file; its header says what the readings are of')
    .option('--json', 'print the numbers as JSON')
    .option(
      '--accept <grade>',
      'worst grade of a fan or bridge that counts as good',
      grade,
      FAN_DEFAULTS.accept,
    )
    .action((file: string, options: { json?: boolean; accept: Grade }) => {
      const { trials, refused } = readTrialCsv(new TextDecoder().decode(readInput(file)))
      const results = trials.map((trial) => {
        const doubts = doubtsOf(trial, options.accept)
        const answer = fitOf(trial, options.accept)
        return { ...answer, sentence: hedged(answer.sentence, doubts), doubts }
      })
      for (const row of refused) process.stderr.write(`${row.message}\n`)
      if (trials.length === 0) {
        process.stderr.write('No row of the file could be used.\n')
        process.exitCode = 1
      }
      process.stdout.write(
        options.json
          ? `${JSON.stringify(results)}\n`
          : results
              .map(
                ({ trial, sentence, readings, doubts }) =>
                  `${[`${trial}: ${sentence}`, `${counted(readings, 'reading')}.`, ...doubts].join(' ')}\n`,
              )
              .join(''),
      )
    })
}

const round = (value: number) => Number(value.toFixed(4))
const rounded = ({ median, low, high }: Interval) => ({
  median: round(median),
  low: round(low),
  high: round(high),
})

/** What speaks against trusting an answer. */
const doubtsOf = (trial: CsvTrial, accept: Grade): string[] =>
  trial.kind === 'offset'
    ? whatIsMissing({ kind: 'offset', fit: fitOffset(trial.readings) })
    : whatIsMissing(trial.kind === 'fan' || trial.kind === 'span' ? { ...trial, accept } : trial)

/** The answer of one trial; keys carry their units. */
function fitOf(trial: CsvTrial, accept: Grade) {
  switch (trial.kind) {
    case 'fan': {
      const fit = fitFan(trial.readings, { ...FAN_DEFAULTS, accept })
      const angle = ({ medianDeg, lowDeg, highDeg, cautiousDeg }: typeof fit.freeAngle) => ({
        medianDeg: round(medianDeg),
        lowDeg: round(lowDeg),
        highDeg: round(highDeg),
        cautiousDeg: round(cautiousDeg),
      })
      return {
        trial: trial.trial,
        kind: trial.kind,
        readings: fit.readings,
        layerHeightMm: fit.layerHeightMm,
        lineWidthMm: fit.lineWidthMm,
        freeAngle: angle(fit.freeAngle),
        share: rounded(fit.share),
        worst: fit.worst,
        directions: fit.directions.map((one) => ({
          direction: one.direction,
          readings: one.readings,
          freeAngle: angle(one.freeAngle),
        })),
        sentence: fanSentence(fit),
      }
    }
    case 'span': {
      const fit = fitSpan(trial.readings, { accept, caution: FAN_DEFAULTS.caution })
      return {
        trial: trial.trial,
        kind: trial.kind,
        readings: fit.readings,
        freeSpanMm: { ...rounded(fit.freeSpanMm), cautious: round(fit.freeSpanMm.cautious) },
        sentence: spanSentence(fit),
      }
    }
    case 'gap': {
      const fit = fitGap(trial.readings)
      const pull = fitPull(trial.readings, 0.45)
      return {
        trial: trial.trial,
        kind: trial.kind,
        readings: fit.readings,
        spacingMm: fit.spacingMm,
        suggestedGapMm: fit.suggestedGapMm,
        windowMm: fit.windowMm,
        pTender: round(fit.pTender),
        releaseThresholdMm: rounded(fit.releaseThresholdMm),
        finishThresholdMm: rounded(fit.finishThresholdMm),
        pullNPerMm2: pull && rounded(pullAt(pull, fit.suggestedGapMm)),
        sentence: gapSentence(fit),
      }
    }
    case 'purge': {
      const fit = fitPurge(trial.readings)
      return {
        trial: trial.trial,
        kind: trial.kind,
        readings: fit.readings,
        swaps: fit.swaps.map(({ swap, readings, volumeMm3 }) => ({
          swap,
          readings,
          volumeMm3: Object.fromEntries(
            Object.entries(volumeMm3).map(([purpose, need]) => [
              purpose,
              { ...rounded(need), cautious: round(need.cautious) },
            ]),
          ),
        })),
        sentence: purgeSentence(fit, { a: 'A', b: 'B' }),
      }
    }
    case 'offset': {
      const fit = fitOffset(trial.readings)
      return {
        trial: trial.trial,
        kind: trial.kind,
        readings: fit.readings,
        axes: fit.axes.map(({ axis, errorMm, readings, atTheEnd }) => ({
          axis,
          readings,
          errorMm: rounded(errorMm),
          atTheEnd,
        })),
        sentence: offsetSentence(fit, null),
      }
    }
  }
}
