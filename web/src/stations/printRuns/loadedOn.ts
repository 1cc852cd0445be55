import type { Printer, StoredFilament } from '@tender/contract'
import type { Loaded } from '@tender/core/print'
import { ask } from '../../api/client'
import { shelves } from '../../api/shelves'

const all = async <Item>({ path, page }: { readonly path: string; readonly page: unknown }) =>
  (await ask<{ items: Item[] }>(`/${path}?limit=500`, page as never)).items

/** What is loaded on a printer right now, by its load map; nothing where the bench does not know it. */
export async function loadedOn(printerId: string): Promise<Loaded> {
  const [printers, filaments] = await Promise.all([
    all<Printer>(shelves.printers),
    all<StoredFilament>(shelves.filaments),
  ])
  const printer = printers.find(({ id }) => id === printerId)
  return (printer?.loaded ?? []).map(
    (spool) => filaments.find(({ spools }) => spools.some(({ id }) => id === spool))?.id ?? null,
  )
}
