import { randomUUID } from 'node:crypto'
import type { FilamentInput, PrinterFields, PrinterInput, SpoolFields } from '@tender/contract'
import { FAMILY_FACTS, PLAIN_PRINTER, plainFilament, type Family } from '@tender/core/bench'

const spool = (gramsLeft: number, rest: Partial<SpoolFields> = {}): SpoolFields => ({
  id: randomUUID(),
  label: '',
  lot: '',
  gramsLeft,
  emptyG: 230,
  pricePerKg: null,
  colour: null,
  openedOn: null,
  driedOn: null,
  damp: false,
  ...rest,
})

const filament = (
  name: string,
  family: Family,
  colour: string,
  pricePerKg: number,
  spools: SpoolFields[],
  nozzleC?: number,
): FilamentInput => {
  const { id: _id, gramsLeft: _grams, lots: _lots, ...plain } = plainFilament(name, family, colour)
  return {
    ...plain,
    pricePerKg,
    spools,
    nozzleC: nozzleC ?? plain.nozzleC,
    bedC: Math.max(plain.bedC, FAMILY_FACTS[family].bedC[0]),
  }
}

/** What is on the workshop's shelf. */
export const DEMO_FILAMENTS: readonly FilamentInput[] = [
  filament(
    'Chalk PLA',
    'PLA',
    '#d8d3c8',
    21,
    [
      spool(412, { label: 'opened in spring', lot: 'C-114', openedOn: '2026-04-11', driedOn: '2026-11-12' }),
      spool(1000, { label: 'new', lot: 'C-131' }),
    ],
    208,
  ),
  filament(
    'Moss PETG',
    'PETG',
    '#6d7f4b',
    24,
    [spool(634, { lot: 'M-20', openedOn: '2026-09-02', driedOn: '2026-11-17' })],
    238,
  ),
  filament('Slate ABS', 'ABS', '#4b5561', 23, [spool(870)]),
  filament('Fog HIPS', 'HIPS', '#b9c0c4', 26, [spool(540, { openedOn: '2026-06-20' })]),
  filament('Mist PVA', 'PVA', '#e6dfb8', 68, [
    spool(231, { label: 'keep in the dry box', lot: 'P-7', openedOn: '2026-08-30', damp: true }),
  ]),
  filament('Reed TPU', 'TPU', '#a08a4f', 34, [spool(318)]),
]

const spoolOf = (name: string) => DEMO_FILAMENTS.find((one) => one.name === name)!.spools[0].id
const { id: _plain, ...twin } = PLAIN_PRINTER
const plain: PrinterFields = {
  ...twin,
  bedMm: [...twin.bedMm],
  offsetMm: [...twin.offsetMm],
  layerMm: null,
}

/** Printers of the weather-station workshop. */
export const DEMO_PRINTERS: readonly PrinterInput[] = [
  {
    ...plain,
    bedMm: [235, 220],
    name: 'Workshop twin',
    fanSide: 'right',
    offsetMm: [24.1, 0, -0.05],
    // A brush stands in the far corner of its bed: there the nozzle that comes is primed.
    swapGcode: 'G0 X{width} Y{depth} F9000\nM109 T{tool} S{nozzle}\nT{tool}\nG1 E{purgeLength} F200',
    loaded: [spoolOf('Chalk PLA'), spoolOf('Moss PETG')],
  },
  {
    ...plain,
    name: 'Workshop changer',
    feed: 'changer',
    loads: 4,
    bedMm: [250, 210],
    heightMm: 210,
    wallMmS: 80,
    fillMmS: 120,
    standMmS: 100,
    interfaceMmS: 50,
    travelMmS: 200,
    accelMmS2: 3500,
    swapS: 24,
    offsetMm: [0, 0, 0],
    loaded: [null, null, spoolOf('Slate ABS'), spoolOf('Fog HIPS')],
  },
]
