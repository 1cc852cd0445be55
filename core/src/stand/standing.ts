import type { Region, RememberingEngine } from '../polygon'
import type { Checkpoint } from '../slice'
import { branchColumns, type BranchRules } from './branching/branchColumns'
import { groundBranches } from './branching/groundBranches'
import { grounded, type Ground, type Grounded } from './grounded'
import { lately, type Lately } from './lately'
import type { Outlines } from './outlines'
import { straightColumns, type Tops } from './straightColumns'
import type { StandKind } from './supports'

/** What stands, level by level, and the branches of it that stand alone. */
export type Standing = Grounded & {
  /** Per level x, y, radius by turns; none for straight stands. */
  readonly rounds: readonly Float64Array[]
}

export type StandingRules = BranchRules & Ground & { readonly standKind: StandKind }

/** Several holdings of a plan, and those of the plan before. */
const REMEMBERED = 6
const known = new WeakMap<RememberingEngine, Lately<Standing>>()

/**
 * Columns or branches below what is held, as far as they stand on something. What they read stays the same
 * when only heights change, by a gap a little wider: then they are as they were.
 * @param taken what other supports fill at a level
 */
export async function standingBelow(
  tops: Tops,
  outlines: Outlines,
  engine: RememberingEngine,
  rules: StandingRules,
  taken: (level: number) => readonly Region[],
  checkpoint?: Checkpoint,
): Promise<Standing> {
  await checkpoint?.(0, 1)
  let answers = known.get(engine)
  if (!answers) known.set(engine, (answers = lately(REMEMBERED)))
  return answers(readBy(tops, outlines, rules, taken), async () => {
    const half: Checkpoint | undefined = checkpoint && ((done, total) => checkpoint(done, 2 * total))
    const second: Checkpoint | undefined =
      checkpoint && ((done, total) => checkpoint(total + done, 2 * total))
    if (rules.standKind === 'branching') {
      const branches = await branchColumns(tops, outlines, engine, rules, taken, half)
      const ground = { ...rules, freeAbove: rules.freeLevels, taken }
      const { wide, ...found } = await groundBranches(branches, tops, outlines, engine, ground, second)
      return { columns: wide, ...found }
    }
    const columns = await straightColumns(tops, outlines, engine, rules, taken, half)
    return { ...(await grounded(columns, outlines, engine, rules, second)), rounds: [] }
  })
}

/** Everything that columns and branches go by, level by level. */
function readBy(
  tops: Tops,
  outlines: Outlines,
  { crownLevels, isStill, freeBelow, ...rules }: StandingRules,
  taken: (level: number) => readonly Region[],
): unknown[] {
  const read: unknown[] = Object.values(rules)
  for (let k = 0; k < outlines.count; k++) read.push(outlines.at(k), freeBelow(k), isStill(k), ...taken(k))
  for (const [level, { top, letOff }] of tops) read.push(level, top, letOff, crownLevels(level))
  return read
}
