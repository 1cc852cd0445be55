import { factsOf, sharesNozzle, type Filament, type FamilyBook, type Printer } from '../bench'

/** One thing that two filaments in one print must agree on. */
export type Verdict = {
  readonly about: 'bed' | 'softening' | 'heat' | 'damp' | 'solvent'
  readonly grade: 'good' | 'mind' | 'bad'
  readonly sentence: string
}

/** A bed may be this far outside a family's window and still hold it, badly. */
const BED_SLACK_C = 10
/** So much hotter than its window a filament scorches while it waits in the nozzle. */
const SCORCH_C = 25
/** So much above its softening a foot creeps, beyond it gives way. */
const FIRM_SLACK_C = 10

/**
 * Whether a part and what touches it can live in one print: bed, heat, damp, and what takes the support away.
 * Source: the families' temperature windows, overlapping or not; see docs/method.md.
 */
export function livesTogether(
  part: Filament,
  touching: Filament,
  printer: Pick<Printer, 'feed'>,
  book?: FamilyBook,
): Verdict[] {
  const [a, b] = [factsOf(part.family, book), factsOf(touching.family, book)]
  return [bed(), softening(), heat(), damp(), solvent()]

  function bed(): Verdict {
    const [low, high] = [Math.max(a.bedC[0], b.bedC[0]), Math.min(a.bedC[1], b.bedC[1])]
    if (low <= high)
      return {
        about: 'bed',
        grade: 'good',
        sentence:
          low === high ? `A bed of ${low} °C suits both.` : `A bed of ${low} to ${high} °C suits both.`,
      }
    const window = (name: string, [from, to]: readonly [number, number]) =>
      `${name} wants ${from} to ${to} °C`
    const sentence = `No bed suits both: ${window(part.name, a.bedC)}, ${window(touching.name, b.bedC)}.`
    return {
      about: 'bed',
      grade: low - high <= BED_SLACK_C ? 'mind' : 'bad',
      sentence: `${sentence} Heat it for ${part.name}; ${touching.name} only has to lie on it if stands are printed in it.`,
    }
  }

  function softening(): Verdict {
    // The bed is heated for the part.
    const bedC = part.bedC
    if (b.softensC === null || b.softensC >= bedC)
      return {
        about: 'softening',
        grade: 'good',
        sentence: `${touching.name} stays firm on a bed of ${bedC} °C.`,
      }
    return {
      about: 'softening',
      grade: bedC - b.softensC > FIRM_SLACK_C ? 'bad' : 'mind',
      sentence: `${touching.name} softens at ${b.softensC} °C and the bed stands at ${bedC}: stands in it would give way at the foot.`,
    }
  }

  function heat(): Verdict {
    const [cool, hot] = part.nozzleC <= touching.nozzleC ? [part, touching] : [touching, part]
    const past = hot.nozzleC - factsOf(cool.family, book).nozzleC[1]
    if (!sharesNozzle(printer)) {
      return past <= SCORCH_C
        ? { about: 'heat', grade: 'good', sentence: 'Each has a nozzle of its own, at its own heat.' }
        : {
            about: 'heat',
            grade: 'good',
            sentence: `${hot.name} prints ${past} °C hotter than ${cool.name} can take, but each has a nozzle of its own.`,
          }
    }
    if (past <= 0)
      return { about: 'heat', grade: 'good', sentence: `Both can pass one nozzle at ${hot.nozzleC} °C.` }
    if (past <= SCORCH_C)
      return {
        about: 'heat',
        grade: 'mind',
        sentence: `Leftovers of ${cool.name} wait at ${hot.nozzleC} °C, ${past} more than it likes: purge at once after a swap.`,
      }
    return {
      about: 'heat',
      grade: 'bad',
      sentence: `Leftovers of ${cool.name} scorch in a nozzle at ${hot.nozzleC} °C and may clog it: ${past} °C more than it can take.`,
    }
  }

  function damp(): Verdict {
    const thirsty = [part, touching].filter(
      (one, i, all) =>
        factsOf(one.family, book).drawsWater && all.findIndex((other) => other.name === one.name) === i,
    )
    if (thirsty.length === 0)
      return { about: 'damp', grade: 'good', sentence: 'Neither draws much water from the air.' }
    return {
      about: 'damp',
      grade: 'mind',
      sentence: `Keep ${thirsty.map((one) => one.name).join(' and ')} dry: damp, ${thirsty.length > 1 ? 'they string' : 'it strings'} and what a test says is about the damp.`,
    }
  }

  function solvent(): Verdict {
    if (b.dissolvesIn === null)
      return {
        about: 'solvent',
        grade: 'good',
        sentence: `${touching.name} comes off by hand or with a tool; nothing dissolves it here.`,
      }
    const liquid = b.dissolvesIn === 'water' ? 'Water' : 'Limonene'
    if (a.dissolvesIn === b.dissolvesIn)
      return {
        about: 'solvent',
        grade: 'bad',
        sentence: `${liquid} takes ${touching.name} away, and ${part.name} with it.`,
      }
    return {
      about: 'solvent',
      grade: 'good',
      sentence: `${liquid} takes ${touching.name} away where no tool reaches.`,
    }
  }
}
