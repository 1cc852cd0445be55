import { NOTHING_NOTED, type StoredTakeOff, type Trial, WHOLE } from '@tender/contract'
import { stepsOf, type Step } from '@tender/core/trial'
import { HttpProblem } from '../problem'
import type { TakeOffShelf } from '../takeOffs/repo'
import type { TrialShelf } from '../trials/repo'
import { askDevice, type DeviceAddresses } from './standIns'

const BY = 'stand-ins'

/**
 * Lets the stand-ins read every step of a trial that nobody has read. The trial is simulated from then on,
 * and says so.
 * @throws HttpProblem INVALID when somebody has read some of it, or when no stand-in can; OFFLINE when one
 * does not answer
 */
export async function readTrialByStandIns(
  trials: TrialShelf,
  id: string,
  standIns: DeviceAddresses,
): Promise<Trial> {
  const { readings, photos: _, ...stored } = await trials.one(id)
  const { look, gauge } = mustLook(standIns)
  if (readings.some(({ revision }) => revision > 0) && !stored.simulated)
    throw new HttpProblem(
      'INVALID',
      'Somebody has read this trial; what was seen is not mixed with what is simulated.',
    )
  if (stored.coupon.kind === 'offset')
    throw new HttpProblem(
      'INVALID',
      'No stand-in can read a comb: nozzles of a simulated printer are where they should be.',
    )
  const read = new Set(readings.filter(({ revision }) => revision > 0).map(({ step }) => step))
  const steps = stepsOf(stored.coupon).filter(({ key }) => !read.has(key))
  const pair = { part: stored.partFilamentName, support: stored.supportFilamentName }
  const seen = await askDevice(
    look,
    'look',
    steps.map((step) => questionOf(step, pair)),
  )
  const area = stored.tileAreaMm2
  const pulled =
    stored.coupon.kind === 'gap' && gauge !== undefined && area !== null
      ? await askDevice(
          gauge,
          'gauge',
          steps.flatMap((step) =>
            step.kind === 'gap' ? [{ ask: 'pull', ...pair, gapMm: step.gapMm, areaMm2: area }] : [],
          ),
        )
      : []
  if (!stored.simulated) {
    const {
      id: _id,
      revision,
      updatedAt: _at,
      printerName: _p,
      partFilamentName: _a,
      supportFilamentName: _b,
      ...input
    } = stored
    await trials.save(id, revision, { ...input, simulated: true })
  }
  for (const [i, { key }] of steps.entries()) {
    const { grade, release, finish } = seen[i] as Record<string, 1 | 2 | 3 | 4 | 5 | undefined>
    await trials.changeReading(id, key, {
      base: 0,
      by: BY,
      changes: {
        ...(grade !== undefined && { grade }),
        ...(release !== undefined && { release, finish: finish! }),
        ...(pulled[i] && { forceN: Number(pulled[i].forceN) }),
      },
    })
  }
  return trials.one(id)
}

/** Every swap of a ladder is read from what came before it to what it is laid in. */
function questionOf(step: Step, { part, support }: { part: string; support: string }): object {
  switch (step.kind) {
    case 'fan':
      return { ask: 'fan', part, angleDeg: step.angleDeg }
    case 'span':
      return { ask: 'span', part, spanMm: step.spanMm }
    case 'gap':
      return { ask: 'gap', part, support, gapMm: step.gapMm }
    case 'purge':
      return step.swap === 'AB'
        ? { ask: 'purge', part, support, volumeMm3: step.volumeMm3 }
        : { ask: 'purge', part: support, support: part, volumeMm3: step.volumeMm3 }
    case 'offset':
      return { ask: 'offset' }
  }
}

/**
 * Lets the stand-ins take a print off: they look at every contact that nobody has noted, and weigh.
 * @throws HttpProblem INVALID, OFFLINE as above
 */
export async function readTakeOffByStandIns(
  takeOffs: TakeOffShelf,
  id: string,
  standIns: DeviceAddresses,
): Promise<StoredTakeOff> {
  const stored = await takeOffs.one(id)
  const { look, scale } = mustLook(standIns)
  if (stored.notes.length > 0 && !stored.simulated)
    throw new HttpProblem(
      'INVALID',
      'Somebody has noted something of this print; what was seen is not mixed with what is simulated.',
    )
  const { document, printed } = stored
  const nameOf = (filament: string) => document.filaments.find((one) => one.id === filament)?.name ?? filament
  const part = nameOf(document.decisions.partFilament)
  const noted = new Set(stored.notes.map(({ at }) => at))
  const contacts = printed.contacts.filter(({ key }) => !noted.has(key))
  const seen = await askDevice(
    look,
    'look',
    contacts.map(({ touching, achievedGapMm }) => ({
      ask: 'gap',
      part,
      support: nameOf(touching),
      gapMm: Math.max(0, achievedGapMm),
    })),
  )
  const sum = (of: 'partG' | 'wasteG') => printed.grams.reduce((all, one) => all + one[of], 0)
  const [weighed] =
    scale === undefined || noted.has(WHOLE)
      ? []
      : await askDevice(scale, 'scale', [{ ask: 'weigh', part, partG: sum('partG'), wasteG: sum('wasteG') }])
  if (!stored.simulated) {
    const { id: _, revision, updatedAt: __, partName: ___, notes: ____, photos: _____, ...input } = stored
    await takeOffs.save(id, revision, { ...input, simulated: true })
  }
  for (const [i, { key }] of contacts.entries()) {
    const { release, finish } = seen[i] as Record<string, 1 | 2 | 3 | 4 | 5>
    await takeOffs.changeNote(id, key, { base: 0, by: BY, changes: { ...NOTHING_NOTED, release, finish } })
  }
  if (weighed)
    await takeOffs.changeNote(id, WHOLE, {
      base: 0,
      by: BY,
      changes: { partG: Number(weighed.partG), wasteG: Number(weighed.wasteG) },
    })
  return takeOffs.one(id)
}

function mustLook(standIns: DeviceAddresses): DeviceAddresses & { readonly look: number } {
  if (standIns.look === undefined)
    throw new HttpProblem('INVALID', 'No stand-ins run beside this server; npm start brings them along.')
  return standIns as DeviceAddresses & { readonly look: number }
}
