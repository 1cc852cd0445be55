import type { FilamentInput, PrinterFields } from '@tender/contract'
import { FAMILY_FACTS, PLAIN_PRINTER, plainFilament, type Family } from '@tender/core/bench'

/** Printers of the weather-station workshop. */
export const DEMO_PRINTERS: readonly PrinterFields[] = [
  { ...PLAIN_PRINTER, bedMm: [235, 220], name: 'Workshop twin' },
  {
    ...PLAIN_PRINTER,
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
  },
]

const filament = (name: string, family: Family, colour: string, pricePerKg: number, spools: FilamentInput['spools'], nozzleC?: number): FilamentInput => {
  const { gramsLeft: _, ...plain } = plainFilament(name, family, colour)
  return { ...plain, pricePerKg, spools, nozzleC: nozzleC ?? plain.nozzleC, bedC: Math.max(plain.bedC, FAMILY_FACTS[family].bedC[0]) }
}

/** What is on its shelf. */
export const DEMO_FILAMENTS: readonly FilamentInput[] = [
  filament('Chalk PLA', 'PLA', '#d8d3c8', 21, [{ label: 'opened in spring', gramsLeft: 412 }, { label: 'new', gramsLeft: 1000 }], 208), // prettier-ignore
  filament('Moss PETG', 'PETG', '#6d7f4b', 24, [{ label: 'dried 17 November', gramsLeft: 634 }], 238),
  filament('Slate ABS', 'ABS', '#4b5561', 23, [{ label: '', gramsLeft: 870 }]),
  filament('Fog HIPS', 'HIPS', '#b9c0c4', 26, [{ label: '', gramsLeft: 540 }]),
  filament('Mist PVA', 'PVA', '#e6dfb8', 68, [{ label: 'keep in the dry box', gramsLeft: 231 }]),
  filament('Reed TPU', 'TPU', '#a08a4f', 34, [{ label: '', gramsLeft: 318 }]),
]
