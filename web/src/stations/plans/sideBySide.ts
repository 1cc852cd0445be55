import type { Plan } from '@tender/contract'
import { filamentOf } from '@tender/core/bench'
import {
  undersidesOf,
  differsIn,
  type Decisions,
  type Exception,
  type PlanDocument,
} from '@tender/core/decide'
import { mm, three } from '../../format/numbers'
import { labelOf, valueInWords } from './inWords'

/** One row of plans beside each other; `best` are the columns that do best in it. */
export type Row = {
  readonly label: string
  readonly cells: readonly string[]
  readonly best: readonly number[]
}

/** Decisions in which plans differ, exceptions and posts included. */
export function differingRows(plans: readonly Pick<Plan, 'document'>[]): Row[] {
  const documents = plans.map(({ document }) => document as PlanDocument)
  const rows: Row[] = []
  const add = (label: string, cells: readonly string[]) => {
    if (new Set(cells).size > 1) rows.push({ label, cells, best: [] })
  }
  add(
    'Printer',
    documents.map(({ printer }) => printer.name),
  )
  for (const name of Object.keys(documents[0].decisions) as (keyof Decisions)[])
    add(
      labelOf(name),
      documents.map(({ decisions, filaments }) =>
        valueInWords(name, decisions[name], (id) => filamentOf(filaments, id).name),
      ),
    )
  add(
    'Exceptions',
    documents.map(
      (document) => document.exceptions.map((one) => exceptionInWords(one, document)).join('; ') || 'none',
    ),
  )
  add(
    'Posts by hand',
    documents.map(({ posts }) => posts.map(postInWords).join(', ') || 'none'),
  )
  return rows
}

function exceptionInWords(exception: Exception, document: PlanDocument): string {
  const nameOf = (id: string) => filamentOf(document.filaments, id).name
  const differs = differsIn(exception).map(
    (name) => `${labelOf(name)} ${valueInWords(name, exception[name], nameOf)}`,
  )
  return [`under ${undersidesOf(exception.where, document)}`, differs.join(', ')].filter(Boolean).join(': ')
}

const postInWords = ({ atMm, widthMm }: PlanDocument['posts'][number]): string =>
  `${mm(widthMm)} at ${atMm.map(three).join(', ')}`

/** A row of numbers, where the least or the most is the best; none is when all are alike. */
export function figureRow(
  label: string,
  values: readonly (number | null)[],
  show: (value: number) => string,
  better: 'least' | 'most',
): Row {
  const cells = values.map((value) => (value === null ? '–' : show(value)))
  const known = values.filter((value) => value !== null)
  const wanted = better === 'least' ? Math.min(...known) : Math.max(...known)
  const best = values.flatMap((value, i) => (value !== null && show(value) === show(wanted) ? [i] : []))
  return { label, cells, best: best.length === values.length ? [] : best }
}
