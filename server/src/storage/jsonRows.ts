import { sql, type SQL } from 'drizzle-orm'
import type { PgColumn } from 'drizzle-orm/pg-core'

/**
 * Rows that belong to the row being read, as a list in the same answer: a round to the database costs more
 * than the rows.
 * @param columns fields of each row
 * @param from where they come from, without the select: `from child where child.parent = parent.id`
 */
export function jsonRows<T>(columns: Readonly<Record<string, PgColumn>>, from: SQL, order: SQL): SQL<T[]> {
  const fields = sql.join(
    Object.entries(columns).map(([key, column]) => sql`${sql.raw(`'${key}'`)}, ${column}`),
    sql`, `,
  )
  return sql<
    T[]
  >`coalesce((select json_agg(json_build_object(${fields}) order by ${order}) ${from}), '[]'::json)`
}
