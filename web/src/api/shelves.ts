import {
  FilamentInput,
  pageOf,
  Part,
  PartInput,
  Plan,
  PlanInput,
  Printer,
  PrinterInput,
  StoredFilament,
  StoredTakeOff,
  TakeOffInput,
  Trial,
  TrialInput,
} from '@tender/contract'
import type { z } from 'zod'

type Shelf<Input, Item> = {
  readonly path: string
  readonly called: string
  readonly item: z.ZodType<Item>
  readonly page: z.ZodType<{ items: Item[]; total: number }>
  readonly input: z.ZodType<Input>
}

const shelf = <Input, Item>(
  path: string,
  called: string,
  input: z.ZodType<Input>,
  item: z.ZodType<Item>,
): Shelf<Input, Item> => ({ path, called, input, item, page: pageOf(item) as never })

/** What the server keeps, and how each is called to a person. */
export const shelves = {
  printers: shelf('printers', 'printer', PrinterInput, Printer),
  filaments: shelf('filaments', 'filament', FilamentInput, StoredFilament),
  trials: shelf('trials', 'trial', TrialInput, Trial),
  parts: shelf('parts', 'part', PartInput, Part),
  plans: shelf('plans', 'plan', PlanInput, Plan),
  takeOffs: shelf('take-offs', 'take-off', TakeOffInput, StoredTakeOff),
}

export type ShelfName = keyof typeof shelves
export type ItemOf<N extends ShelfName> =
  (typeof shelves)[N] extends Shelf<unknown, infer Item> ? Item : never
export type InputOf<N extends ShelfName> =
  (typeof shelves)[N] extends Shelf<infer Input, unknown> ? Input : never

/** What of a shelf is wanted, and in which order: see the server's lists. */
export type ListQuery = {
  readonly search?: string
  readonly order?: string
  readonly part?: string
  readonly bed?: string
  readonly read?: 'yes' | 'no'
}

/** Query keys, general to special: invalidating a shelf reaches everything on it. */
export const shelfKeys = {
  all: (name: ShelfName) => [name] as const,
  list: (name: ShelfName, query: ListQuery = {}) => [name, 'list', query] as const,
  pages: (name: ShelfName, query: ListQuery) => [name, 'list', 'pages', query] as const,
  one: (name: ShelfName, id: string) => [name, 'one', id] as const,
}
