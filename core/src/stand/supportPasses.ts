import type { Checkpoint, Layer } from '../slice'
import { EMPTY_REGION, isEmptyRegion, regionAreaMm2, type PolygonEngine, type Region } from '../polygon'
import { planStack, type Stack, type StackMode } from '../stack'
import { SAME_HEIGHT_MM } from '../tolerances'
import type { Stands } from './straightStands'

/** One sweep of one role at one height. It fills region from bottomMm to topMm. */
export type SupportPass = { readonly role: 'stand' | 'interface' | 'footing'; readonly bottomMm: number; readonly topMm: number; readonly region: Region }

export type SupportPasses = {
  /** From the bed upwards. */
  readonly passes: readonly SupportPass[]
  /** The stack under each layer with a contact. */
  readonly stacks: ReadonlyMap<number, Stack>
}

/**
 * Shapes already cut for one set of stands. They depend on which layers an interface or a gap covers, not on exact heights, so most
 * survive a change of the gap. Belongs to the stands it was filled from.
 */
export type PassMemo = Map<string, Region>

export type SupportOptions = {
  readonly upperGapMm: number
  readonly interfaceLayers: number
  readonly stackMode: StackMode
  readonly thicknessMm: readonly [number, number]
  readonly lineWidthMm: number
}

/**
 * Turns columns and contacts into what is printed when: interface layers right under each contact, the gap above them left free, and
 * stands on the part's layers below.
 */
export async function supportPasses(
  layers: readonly Layer[],
  stands: Stands,
  engine: PolygonEngine,
  options: SupportOptions,
  memo: PassMemo = new Map(),
  checkpoint?: Checkpoint,
): Promise<SupportPasses> {
  const stacks = new Map<number, Stack>()
  /** Per layer: contacts whose interface or gap lies there, so that the stand must end below. */
  const ending: number[][] = layers.map(() => [])
  const interfaces = new Map<string, { bottomMm: number; topMm: number; contacts: number[] }>()
  const remember = (key: string, make: () => Region): Region => {
    const known = memo.get(key)
    if (known) return known
    const made = make()
    memo.set(key, made)
    return made
  }
  const first = layers[0].topMm
  const h = layers.length > 1 ? layers[1].topMm - layers[1].bottomMm : first
  /** Layers that the stack of a contact spans. */
  const reachOf = (i: number) => Math.ceil((layers[i].bottomMm - stacks.get(i)!.standTopMm) / h - SAME_HEIGHT_MM)
  /**
   * What belongs to the stack of a contact alone. Margins of neighbouring contacts reach below each other; where the stacks of two would
   * share heights, plastic would be laid twice, so a margin yields to the contact it reaches below.
   */
  const ownOf = (i: number): Region => {
    const reach = reachOf(i)
    const near: Region[] = []
    for (let k = Math.max(1, i - reach); k <= Math.min(layers.length - 1, i + reach); k++) if (k !== i && !isEmptyRegion(stands.contacts[k])) near.push(stands.contacts[k])
    return near.length === 0 ? stands.tops[i] : remember(`own ${i}: ${reach}`, () => engine.minus(stands.tops[i], ...near))
  }
  /** Names the shapes of some contacts for the memo. */
  const named = (contacts: readonly number[]) => contacts.map((i) => `${i}.${reachOf(i)}`).join()
  const topsOf = (contacts: readonly number[]) => engine.union(...contacts.map(ownOf))
  for (let i = 1; i < layers.length; i++) {
    if (isEmptyRegion(stands.tops[i])) continue
    const stack = planStack({
      undersideMm: layers[i].bottomMm,
      gapMm: options.upperGapMm,
      interfaceLayers: options.interfaceLayers,
      layerHeightMm: h,
      firstLayerHeightMm: first,
      thicknessMm: options.thicknessMm,
      mode: options.stackMode,
    })
    stacks.set(i, stack)
    for (let j = i - 1; j >= 0 && layers[j].topMm > stack.standTopMm + SAME_HEIGHT_MM; j--) ending[j].push(i)
    for (const { bottomMm, topMm } of stack.interface) {
      const key = `${Math.round(bottomMm * 1e5)}:${Math.round(topMm * 1e5)}`
      const entry = interfaces.get(key)
      if (entry) entry.contacts.push(i)
      else interfaces.set(key, { bottomMm, topMm, contacts: [i] })
    }
  }

  const passes: SupportPass[] = []
  if (!isEmptyRegion(stands.footing)) passes.push({ role: 'footing', bottomMm: 0, topMm: first, region: stands.footing })
  const smallest = options.lineWidthMm * options.lineWidthMm
  for (let j = 0; j < layers.length; j++) {
    if (checkpoint && j % 8 === 0) await checkpoint(j, layers.length)
    const column = stands.columns[j]
    if (isEmptyRegion(column)) continue
    const region = ending[j].length === 0 ? column : remember(`stand ${j}: ${named(ending[j])}`, () => engine.minus(column, ...ending[j].map(ownOf)))
    if (regionAreaMm2(region) >= smallest) passes.push({ role: 'stand', bottomMm: layers[j].bottomMm, topMm: layers[j].topMm, region })
  }
  for (const { bottomMm, topMm, contacts } of interfaces.values()) {
    const beside = layersBetween(layers, bottomMm, topMm)
    const region = remember(`interface ${named(contacts)}: ${beside.map((layer) => layer.index).join()}`, () => {
      const left = engine.minus(topsOf(contacts), ...beside.flatMap(({ index }) => stands.barred[index]))
      // Only where the column under it exists: columns that were dropped as dust take their interface along.
      return beside.length > 0 ? engine.common(left, stands.columns[beside[0].index]) : EMPTY_REGION
    })
    if (regionAreaMm2(region) >= smallest) passes.push({ role: 'interface', bottomMm, topMm, region })
  }
  passes.sort((a, b) => a.topMm - b.topMm)
  return { passes, stacks }
}

/** Layers that share height with bottom..top. */
function layersBetween(layers: readonly Layer[], bottomMm: number, topMm: number): Layer[] {
  const first = layers[0].topMm
  const h = layers.length > 1 ? layers[1].topMm - layers[1].bottomMm : first
  const start = bottomMm < first ? 0 : Math.max(0, Math.floor((bottomMm - first) / h))
  const found: Layer[] = []
  for (let i = start; i < layers.length && layers[i].bottomMm < topMm - SAME_HEIGHT_MM; i++) if (layers[i].topMm > bottomMm + SAME_HEIGHT_MM) found.push(layers[i])
  return found
}
