import type { Part, Plan, PlanInput, Printer, StoredFilament, StoredTakeOff, Trial } from '@tender/contract'
import { PLAIN_PRINTER, plainFilament } from '@tender/core/bench'
import { UPRIGHT } from '@tender/core/mesh'
import { DEFAULT_PLAN } from '@tender/core/decide'
import { STARTING_COUPONS } from '@tender/core/trial'
import type { NeedsReport } from '../workers/partWork'

const stored = { revision: 1, updatedAt: '2026-11-20T08:00:00.000Z' }
/** An id of the right form, the same for the same number. */
export const idOf = (n: number): string => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`

export const aFilament = (
  n: number,
  name: string,
  family: StoredFilament['family'] = 'PLA',
  spools: StoredFilament['spools'] = [],
): StoredFilament => {
  const { id: _id, gramsLeft: _grams, lots: _lots, ...plain } = plainFilament(name, family, '#d8d3c8')
  return { ...stored, ...plain, id: idOf(n), spools }
}

export const aPrinter = (changes: Partial<Printer> = {}): Printer =>
  ({ ...stored, ...PLAIN_PRINTER, id: idOf(90), loaded: [], ...changes }) as Printer

export const aPart = (changes: Partial<Part> = {}): Part => ({
  ...stored,
  id: idOf(70),
  name: 'Vane pivot',
  fileName: 'vane.stl',
  meshSha256: 'a'.repeat(64),
  pose: { ...UPRIGHT, turn: [...UPRIGHT.turn] },
  tags: [],
  zones: [],
  bodies: [],
  olderId: null,
  byteLength: 684,
  facts: {
    triangles: 12,
    sizeMm: [10, 20, 30],
    volumeMm3: 6000,
    areaMm2: 2200,
    watertight: true,
    openEdges: 0,
    shells: 1,
  },
  notes: [],
  meshBodies: [{ name: '', triangles: 12 }],
  ...changes,
})

export const aPlan = (changes: Partial<Plan> = {}): Plan =>
  ({
    ...stored,
    id: idOf(60),
    partId: idOf(70),
    document: DEFAULT_PLAN as unknown as PlanInput['document'],
    figures: null,
    partName: 'Vane pivot',
    ...changes,
  }) as Plan

export const aTrial = (changes: Partial<Trial> = {}): Trial => ({
  ...stored,
  id: idOf(50),
  name: 'Chalk on Chalk',
  coupon: structuredClone(STARTING_COUPONS.gap) as Trial['coupon'],
  printerId: idOf(90),
  printerName: 'Plain',
  partFilamentId: idOf(1),
  partFilamentName: 'Chalk PLA',
  supportFilamentId: idOf(1),
  supportFilamentName: 'Chalk PLA',
  nozzleMm: 0.4,
  layerHeightMm: 0.2,
  lineWidthMm: 0.45,
  speedMmS: 40,
  fanPercent: 80,
  damp: false,
  simulated: false,
  tileAreaMm2: 196,
  printedOn: '2026-11-20',
  partLot: '',
  supportLot: '',
  offsetMm: null,
  note: '',
  leftOut: false,
  readings: [],
  photos: [],
  ...changes,
})

/** A print of two contacts that nobody has read. */
export const aTakeOff = (changes: Partial<StoredTakeOff> = {}): StoredTakeOff => ({
  ...stored,
  id: idOf(40),
  name: 'Vane pivot, first print',
  printedOn: '2026-11-21',
  partId: idOf(70),
  partName: 'Vane pivot',
  planId: idOf(60),
  bed: null,
  damp: false,
  simulated: false,
  lessonsLeftOut: [],
  document: DEFAULT_PLAN as unknown as PlanInput['document'],
  printed: {
    contacts: [4, 12].map((zMm, n) => ({
      key: `c${n + 1}`,
      atMm: [10 * n, 0, zMm] as [number, number, number],
      holding: 0,
      kind: 'flat',
      access: 'open',
      areaMm2: 60,
      gapMm: 0.2,
      achievedGapMm: 0.2,
      interfaceSpacingMm: 0,
      interfaceLayers: 3,
      touching: DEFAULT_PLAN.filaments[0].id,
      bulk: DEFAULT_PLAN.filaments[0].id,
      guessed: 'surely',
      neckMm: null,
      outline: [[10 * n, 0, 10 * n + 8, 0, 10 * n + 8, 8, 10 * n, 8]],
    })),
    moreContacts: 0,
    silhouette: [[-2, -2, 20, -2, 20, 10, -2, 10]],
    grams: [{ filament: DEFAULT_PLAN.filaments[0].id, partG: 20, wasteG: 5 }],
    minutes: 4,
    timeS: 3600,
    heightMm: 30,
  },
  notes: [],
  photos: [],
  ...changes,
})

/** Of a part of which nothing needs holding. */
export const aNeedsReport = (changes: Partial<NeedsReport> = {}): NeedsReport => ({
  id: 'needs',
  bounds: { minX: 0, minY: 0, maxX: 10, maxY: 20 },
  heightMm: 30,
  undersides: 0,
  layers: 150,
  slicedMm3: 6000,
  overlap: null,
  holdMm2: 0,
  patches: [],
  islands: [],
  bridges: [],
  ...changes,
})
