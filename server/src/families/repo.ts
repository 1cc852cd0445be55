import type { ClingEntry, ClingInput, FamilyEntry, FamilyInput, FamilyTable } from '@tender/contract'
import { clingGuess, clingKey, FAMILIES, FAMILY_FACTS, type Family } from '@tender/core/bench'
import { and, eq, sql } from 'drizzle-orm'
import { HttpProblem } from '../problem'
import type { Database } from '../storage/database'
import { clingChange, familyChange } from './schema'

const OURS = 'A starting guess of ours; see the notes on method.'

export type FamilyRepo = {
  table(): Promise<FamilyTable>
  /** Revision 0 is ours as it came. */
  change(name: Family, revision: number, input: FamilyInput): Promise<FamilyEntry>
  changeCling(a: Family, b: Family, revision: number, input: ClingInput): Promise<ClingEntry>
  /** Back to ours. */
  reset(name: Family): Promise<void>
  resetCling(a: Family, b: Family): Promise<void>
}

/** Families and clings as they stand on this bench. */
export function familyRepo(db: Database): FamilyRepo {
  const families = async (): Promise<FamilyEntry[]> => {
    const changes = new Map((await db.select().from(familyChange)).map((row) => [row.name, row]))
    return FAMILIES.map((name) => {
      const row = changes.get(name)
      if (row) return { ...row.facts, name, own: true, revision: row.revision }
      const { nozzleC, bedC, ...facts } = FAMILY_FACTS[name]
      return { ...facts, nozzleC: [...nozzleC], bedC: [...bedC], source: OURS, name, own: false, revision: 0 }
    })
  }
  const clings = async (): Promise<ClingEntry[]> => {
    const changes = new Map((await db.select().from(clingChange)).map((row) => [row.pair, row]))
    return FAMILIES.flatMap((a, i) =>
      FAMILIES.slice(i).map((b): ClingEntry => {
        const row = changes.get(clingKey(a, b))
        if (row)
          return {
            a,
            b,
            cling: row.cling as ClingEntry['cling'],
            source: row.source,
            own: true,
            known: true,
            revision: row.revision,
          }
        const { cling, known } = clingGuess(a, b)
        return {
          a,
          b,
          cling,
          known,
          source: known ? OURS : 'Nobody has spoken for these two; the middle is taken.',
          own: false,
          revision: 0,
        }
      }),
    )
  }
  const stale = (current: unknown) =>
    new HttpProblem(
      'STALE',
      'This was changed somewhere else since you opened it. Nothing of yours was saved over it.',
      { current },
    )
  const oneFamily = async (name: Family) => (await families()).find((one) => one.name === name)!
  const oneCling = async (a: Family, b: Family) =>
    (await clings()).find((one) => clingKey(one.a, one.b) === clingKey(a, b))!
  return {
    table: async () => ({ families: await families(), clings: await clings() }),
    async change(name, revision, facts) {
      const written =
        revision === 0
          ? await db
              .insert(familyChange)
              .values({ name, facts })
              .onConflictDoNothing()
              .returning({ name: familyChange.name })
          : await db
              .update(familyChange)
              .set({ facts, revision: sql`${familyChange.revision} + 1` })
              .where(and(eq(familyChange.name, name), eq(familyChange.revision, revision)))
              .returning({ name: familyChange.name })
      if (written.length === 0) throw stale(await oneFamily(name))
      return oneFamily(name)
    },
    async changeCling(a, b, revision, { cling, source }) {
      const pair = clingKey(a, b)
      const written =
        revision === 0
          ? await db
              .insert(clingChange)
              .values({ pair, cling, source })
              .onConflictDoNothing()
              .returning({ pair: clingChange.pair })
          : await db
              .update(clingChange)
              .set({ cling, source, revision: sql`${clingChange.revision} + 1` })
              .where(and(eq(clingChange.pair, pair), eq(clingChange.revision, revision)))
              .returning({ pair: clingChange.pair })
      if (written.length === 0) throw stale(await oneCling(a, b))
      return oneCling(a, b)
    },
    reset: async (name) => void (await db.delete(familyChange).where(eq(familyChange.name, name))),
    resetCling: async (a, b) =>
      void (await db.delete(clingChange).where(eq(clingChange.pair, clingKey(a, b)))),
  }
}
