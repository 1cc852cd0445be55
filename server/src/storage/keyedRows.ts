import { and, eq, sql, type SQL } from 'drizzle-orm'
import type { PgColumn, PgTable } from 'drizzle-orm/pg-core'
import { HttpProblem } from '../problem'
import type { Database } from './database'
import { stale } from './shelf'

/** When and by whom each field of a row was last changed. */
export type ChangeMarks = Readonly<Record<string, { readonly revision: number; readonly by: string }>>

/** What somebody changed, and of which revision. */
export type KeyedChange<Values> = {
  readonly base: number
  readonly by: string
  readonly changes: Partial<Values>
}

type KeyedTable = PgTable & { revision: PgColumn; marks: PgColumn; readAt: PgColumn }

export type KeyedRows<Values, Row> = {
  /**
   * Writes down what somebody changed. What another changed since the maker looked is not overwritten;
   * changes of other fields go together, and the same change sent twice is one.
   * @throws HttpProblem STALE (with the row as it stands)
   */
  change(db: Database, parentId: string, key: string, change: KeyedChange<Values>): Promise<Row>
  /**
   * Writes a whole row over the one of that revision.
   * @param revision null when nothing was there so far
   * @throws HttpProblem STALE (with the row as it stands)
   */
  write(db: Database, parentId: string, key: string, revision: number | null, values: Values): Promise<Row>
}

/**
 * Rows of notes under a parent, one for each key, that several may fill in at once: each field remembers when
 * and by whom it was changed.
 * @param parent name of the column with the parent's identity, `key` that of the key beneath it
 * @param nothing what each field holds before anybody has said anything
 * @param clash what is said when something was changed elsewhere
 * @throws STALE when a row meanwhile changed elsewhere
 */
export function keyedRows<Table extends KeyedTable, Values extends object, Row>(
  table: Table,
  parent: string,
  key: string,
  nothing: Values,
  toRow: (stored: Table['$inferSelect']) => Row,
  clash: string,
): KeyedRows<Values, Row> {
  type Field = keyof Values & string
  const columns = table as unknown as Record<string, PgColumn>
  const [parentColumn, keyColumn, revision, marks] = [
    columns[parent],
    columns[key],
    table.revision,
    table.marks,
  ]

  /**
   * One statement, so that of several writers each sees the one before: makes the row, or changes the one
   * that is there when it may.
   * @param news whether anything differs from what stands there
   * @param mayChange whether this change may be made to what stands there
   */
  async function upsert(
    db: Database,
    parentId: string,
    keyValue: string,
    fields: readonly Field[],
    values: Partial<Values>,
    by: string,
    news: SQL,
    mayChange: SQL,
  ): Promise<Row> {
    const marksAt = (at: SQL | number) =>
      sql.join(
        fields.map(
          (field) =>
            sql`jsonb_build_object(${field}::text, jsonb_build_object('revision', ${at}::int, 'by', ${by}::text))`,
        ),
        sql` || `,
      )
    const next = sql`${revision} + 1`
    const written = (await db
      .insert(table)
      .values({ [parent]: parentId, [key]: keyValue, ...values, revision: 1, marks: marksAt(1) } as never)
      .onConflictDoUpdate({
        target: [parentColumn, keyColumn],
        set: {
          ...values,
          revision: sql`case when ${news} then ${next} else ${revision} end`,
          marks: sql`case when ${news} then ${marks} || ${marksAt(next)} else ${marks} end`,
          readAt: sql`now()`,
        } as never,
        setWhere: mayChange,
      })
      .returning()) as Table['$inferSelect'][]
    if (written[0]) return toRow(written[0])
    const [current] = await db
      .select()
      .from(table as PgTable)
      .where(and(eq(parentColumn, parentId), eq(keyColumn, keyValue)))
    const { message, extra } = stale(toRow(current as Table['$inferSelect']))
    throw new HttpProblem('STALE', `${message} ${clash}`, extra)
  }

  return {
    change(db, parentId, keyValue, { base, by, changes }) {
      const fields = Object.keys(changes) as Field[]
      const differs = (field: Field) => sql`${columns[field]} is distinct from ${changes[field]}`
      // Rows from before fields were marked count as changed once, when they were read.
      const changedAt = (field: Field) =>
        sql`coalesce((${marks} -> ${field} ->> 'revision')::int, case when ${columns[field]} is not distinct from ${literal(nothing[field])} then 0 else 1 end)`
      const clashes = fields.map(
        (field) =>
          sql`(${differs(field)} and ${changedAt(field)} > ${base} and ${marks} -> ${field} ->> 'by' is distinct from ${by})`,
      )
      const news = sql`(${sql.join(fields.map(differs), sql` or `)})`
      const mayChange = sql`not (${sql.join(clashes, sql` or `)})`
      return upsert(db, parentId, keyValue, fields, changes, by, news, mayChange)
    },
    write(db, parentId, keyValue, from, values) {
      const fields = Object.keys(values) as Field[]
      const news = sql`(${sql.join(
        fields.map((field) => sql`${columns[field]} is distinct from ${values[field]}`),
        sql` or `,
      )})`
      const mayChange = sql`(${revision} = ${from ?? 0} or not ${news})`
      return upsert(db, parentId, keyValue, fields, values, '', news, mayChange)
    },
  }
}

/** What an untouched field has, as the database writes it. */
const literal = (value: unknown): SQL => (value === null ? sql`null` : value === false ? sql`false` : sql`''`)
