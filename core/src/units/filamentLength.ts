/** Metres of filament that hold this volume. Source: cylinder of the filament's diameter. */
export function filamentMetres(volumeMm3: number, diameterMm: number): number {
  return volumeMm3 / ((Math.PI * diameterMm * diameterMm) / 4) / 1000
}

/** Grams in this volume; density in g/cm3. */
export function massGrams(volumeMm3: number, densityGcm3: number): number {
  return (volumeMm3 / 1000) * densityGcm3
}
