import { randomUUID } from 'node:crypto'
import { WHOLE, type TakeOffInput, type TakeOffNote } from '@tender/contract'
import type { PlanDocument } from '@tender/core/decide'
import type { Printed } from '@tender/core/takeOff'
import type { Grade } from '@tender/core/trial'
import type { Database } from '../storage/database'
import { takeOffShelf } from '../takeOffs/repo'

type DemoTakeOff = {
  /** Name of the plan it was printed from. */
  readonly plan: string
  readonly name: string
  readonly printedOn: string
  /**
   * Grades of contacts from the lowest up, release and face; a dot where nothing was read. What is beyond
   * stays unread.
   */
  readonly grades: readonly [release: string, finish: string]
  /** Of the contacts from the lowest up: what stayed of the interface. */
  readonly stayed: readonly TakeOffNote['stayed'][]
  /** Weighed over planned. */
  readonly weighed: { readonly part: number; readonly waste: number } | null
  readonly whole: Partial<TakeOffNote>
}

/** Prints of the workshop, as they came off. */
export const DEMO_TAKE_OFFS: readonly DemoTakeOff[] = [
  {
    plan: 'Chalk only',
    name: 'Louvre shield, first print',
    printedOn: '2026-11-21',
    grades: ['2322323', '3332233'],
    stayed: ['nothing', 'some', 'nothing', 'nothing', 'nothing', 'some', 'nothing'],
    weighed: { part: 1.03, waste: 1.06 },
    whole: { tool: 'hook', minutes: 21, note: 'The rims between the louvres took longest.' },
  },
  {
    plan: 'Moss touch layers',
    name: 'Louvre shield with Moss',
    printedOn: '2026-11-24',
    grades: ['112', '121'],
    stayed: ['nothing', 'nothing', 'some'],
    weighed: null,
    whole: { tool: 'fingers' },
  },
]

type Print = {
  readonly partId: string
  readonly planId: string
  readonly document: PlanDocument
  readonly printed: Printed
}

/** Puts a print with its record on the shelf. */
export async function saveTakeOff(db: Database, demo: DemoTakeOff, print: Print): Promise<void> {
  const shelf = takeOffShelf(db)
  const id = randomUUID()
  const { printed } = print
  await shelf.save(id, null, {
    name: demo.name,
    printedOn: demo.printedOn,
    bed: null,
    damp: false,
    simulated: false,
    lessonsLeftOut: [],
    ...print,
  } as unknown as TakeOffInput)
  const say = (at: string, changes: Partial<TakeOffNote>) =>
    shelf.changeNote(id, at, { base: 0, by: 'demo', changes })
  const gradeAt = (row: string, n: number) => {
    const mark = row[n] ?? '.'
    return mark === '.' ? null : (Number(mark) as Grade)
  }
  const [release, finish] = demo.grades
  for (const [n, { key }] of printed.contacts.entries())
    if (n < release.length)
      await say(key, {
        release: gradeAt(release, n),
        finish: gradeAt(finish, n),
        stayed: demo.stayed[n] ?? null,
        specks: 'none',
        damage: 'none',
      })
  const sum = (of: 'partG' | 'wasteG') => printed.grams.reduce((total, one) => total + one[of], 0)
  const scale = (g: number) => Math.round(g * 10) / 10
  await say(WHOLE, {
    ...demo.whole,
    ...(demo.weighed && {
      partG: scale(sum('partG') * demo.weighed.part),
      wasteG: scale(sum('wasteG') * demo.weighed.waste),
    }),
  })
}
