import type { ReadingInput, Trial } from '@tender/contract'
import { matchCsv, readTrialCsv, writeTrialCsv, type CsvTrial, type KnownTrial } from '@tender/core/trial'
import { useState } from 'react'
import { counted } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { Buttons, Dialog } from '../../ui/Dialog'
import { pickText, saveFile, slug } from '../../ui/saveFile'
import { Sentence, SoftLine } from '../../ui/Sheet'
import { CouponSheet } from './CouponSheet'

/** The coupon to print again, and its readings as a file, out and in. */
export function ReadingsMenu({
  trial,
  known,
  onRead,
}: {
  trial: Trial
  known: KnownTrial
  onRead: (step: string, change: Partial<ReadingInput>) => void
}) {
  const [open, setOpen] = useState(false)
  const [told, setTold] = useState<{ taken: number; refused: readonly string[] } | null>(null)
  const csv = (): CsvTrial => ({ ...known, trial: trial.name })

  async function takeIn() {
    const text = await pickText('.csv,text/csv')
    if (text === null) return
    try {
      const { trials, refused } = readTrialCsv(text)
      // A file may hold several trials; the one of this name is meant, else there must be only one.
      const meant = trials.find((one) => one.trial === trial.name) ?? (trials.length === 1 ? trials[0] : null)
      if (!meant)
        return setTold({
          taken: 0,
          refused: [
            `The file holds ${counted(trials.length, 'trial')}, and none of them is called “${trial.name}”.`,
          ],
        })
      const { readings, unmatched } = matchCsv(trial.coupon, meant)
      for (const { step, grade, release, finish, forceN } of readings)
        onRead(step, { grade, release, finish, forceN })
      setTold({ taken: readings.length, refused: [...refused.map((row) => row.message), ...unmatched] })
    } catch (error) {
      setTold({ taken: 0, refused: [(error as Error).message] })
    }
  }

  return (
    <>
      <Button onPress={() => setOpen(true)}>Coupon and files</Button>
      {open && (
        <Dialog title={`${trial.name}: coupon and files`} open onClose={() => setOpen(false)} wide>
          <CouponSheet input={trial} />
          <Buttons>
            <Button
              isDisabled={known.readings.length === 0}
              onPress={() => saveFile(`${slug(trial.name)}.csv`, 'text/csv', writeTrialCsv([csv()]))}
            >
              Readings as CSV
            </Button>
            <Button onPress={() => void takeIn()}>Bring in readings from CSV</Button>
          </Buttons>
          {told && (
            <div role="status">
              <Sentence>
                {told.taken > 0
                  ? `${counted(told.taken, 'reading')} taken in.`
                  : 'Nothing was taken in; the readings are as they were.'}
              </Sentence>
              {told.refused.slice(0, 8).map((sentence) => (
                <SoftLine key={sentence}>{sentence}</SoftLine>
              ))}
              {told.refused.length > 8 && <SoftLine>… and {told.refused.length - 8} more.</SoftLine>}
            </div>
          )}
        </Dialog>
      )}
    </>
  )
}
