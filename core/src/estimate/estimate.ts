import type { Filament } from '../bench'
import { ROLES, type Role } from '../print'
import { filamentMetres, massGrams } from '../units'

/** Plastic laid down for one role in one filament, by its identity. */
export type Use = { readonly role: Role; readonly filament: string; readonly mm3: number }

export type RoleTotal = { readonly mm3: number; readonly g: number }
export type FilamentTotal = {
  readonly id: string
  readonly name: string
  readonly mm3: number
  readonly g: number
  /** Of that, what stays in the part; the rest is thrown away. */
  readonly partG: number
  readonly m: number
  readonly cost: number
  readonly gramsLeft: number | null
}

export type Estimate = {
  readonly roles: Readonly<Record<Role, RoleTotal>>
  readonly filaments: readonly FilamentTotal[]
  readonly massG: number
  readonly wasteG: number
  readonly cost: number
}

/** Adds up what a plan uses, per role and per filament. Everything but the part is thrown away. */
export function estimate(uses: readonly Use[], filaments: readonly Filament[]): Estimate {
  const roles = Object.fromEntries(ROLES.map((role) => [role, { mm3: 0, g: 0 }])) as Record<
    Role,
    { mm3: number; g: number }
  >
  const totals = new Map<string, FilamentTotal>()
  for (const { role, filament: id, mm3 } of uses) {
    const filament = filaments.find((one) => one.id === id)
    if (!filament || mm3 === 0) continue
    const g = massGrams(mm3, filament.densityGcm3)
    roles[role].mm3 += mm3
    roles[role].g += g
    const before = totals.get(id)
    const all = (before?.mm3 ?? 0) + mm3
    const allG = (before?.g ?? 0) + g
    totals.set(id, {
      id,
      name: filament.name,
      mm3: all,
      g: allG,
      partG: (before?.partG ?? 0) + (role === 'part' ? g : 0),
      m: filamentMetres(all, filament.diameterMm),
      cost: (allG / 1000) * filament.pricePerKg,
      gramsLeft: filament.gramsLeft,
    })
  }
  const list = [...totals.values()]
  const massG = list.reduce((sum, one) => sum + one.g, 0)
  return {
    roles,
    filaments: list,
    massG,
    wasteG: massG - roles.part.g,
    cost: list.reduce((sum, one) => sum + one.cost, 0),
  }
}
