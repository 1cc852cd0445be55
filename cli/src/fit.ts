import { readFileSync } from 'node:fs'
import { FAN_DEFAULTS, fitFan, fitGap, gapSentence, readTrialCsv, type CsvTrial, type Grade, type Interval } from '@tender/core/trial'
import { Command, InvalidArgumentError } from 'commander'

const grade = (text: string): Grade => {
  const value = Number(text)
  if (!Number.isInteger(value) || value < 1 || value > 5) throw new InvalidArgumentError('Grades are whole numbers from 1 to 5.')
  return value as Grade
}

/** `tender fit readings.csv`: what printed tests say. */
export function fitCommand(): Command {
  return new Command('fit')
    .description('turn the readings of overhang fans and gap ladders into limits')
    .argument('<readings>', 'CSV file; its header says what the readings are of')
    .option('--json', 'print the numbers as JSON')
    .option('--accept <grade>', 'worst fan grade that counts as good', grade, FAN_DEFAULTS.accept)
    .action((file: string, options: { json?: boolean; accept: Grade }) => {
      const { trials, refused } = readTrialCsv(readFileSync(file, 'utf8'))
      const results = trials.map((trial) => fitOf(trial, options.accept))
      for (const row of refused) process.stderr.write(`${row.message}\n`)
      if (trials.length === 0) {
        process.stderr.write('No row of the file could be used.\n')
        process.exitCode = 1
      }
      process.stdout.write(options.json ? `${JSON.stringify(results)}\n` : results.map(inWords).join(''))
    })
}

const round = (value: number) => Number(value.toFixed(4))
const rounded = ({ median, low, high }: Interval) => ({ median: round(median), low: round(low), high: round(high) })

function fitOf(trial: CsvTrial, accept: Grade) {
  if (trial.kind === 'fan') {
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
      directions: fit.directions.map((one) => ({ direction: one.direction, readings: one.readings, freeAngle: angle(one.freeAngle) })),
    }
  }
  const fit = fitGap(trial.readings)
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
    sentence: gapSentence(fit),
  }
}

function inWords(result: ReturnType<typeof fitOf>): string {
  if ('freeAngle' in result && result.freeAngle) {
    const { medianDeg, lowDeg, highDeg, cautiousDeg } = result.freeAngle
    return `${result.trial}: free angle ${medianDeg.toFixed(0)}° from vertical (${(90 - medianDeg).toFixed(0)}° from bed), nine in ten ${lowDeg.toFixed(0)}° to ${highDeg.toFixed(0)}°, cautious ${cautiousDeg.toFixed(0)}°${result.worst ? `, weakest facing ${result.worst}` : ''}; ${result.readings} readings.\n`
  }
  return `${result.trial}: ${'sentence' in result ? result.sentence : ''} ${result.readings} readings.\n`
}
