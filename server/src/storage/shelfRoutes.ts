import { PageQuery, Revision, type Page } from '@tender/contract'
import { Router, type Request, type Response } from 'express'
import { z } from 'zod'
import type { ReadCache, Sources } from './readCache'

/** What every aggregate can do: listed, read, saved, removed and brought back. */
export type Shelf<Input, Item> = {
  list(query: PageQuery): Promise<Page<Item>>
  one(id: string): Promise<Item>
  save(id: string, revision: number | null, input: Input): Promise<Item>
  /** @param revision what the maker was looking at; null removes whatever stands there */
  remove(id: string, revision: number | null): Promise<void>
  restore(id: string): Promise<void>
}

/** The address of one thing; anything that is no identity is simply not there. */
export const idOf = (params: Record<string, unknown>): string => z.uuid().parse(params.id)

/** The revision that a change starts from; null when none is named. */
export const revisionOf = (query: Record<string, unknown>): number | null =>
  query.revision === undefined ? null : Revision.parse(query.revision)

/** What a shelf's answers are made of, for keeping them ready. */
export type Ready = { readonly cache: ReadCache; readonly table: string; readonly sources: Sources }

/** Sends an answer that may be kept ready; a browser that has it already is told so. */
async function sendReady(
  { cache, sources }: Ready,
  req: Request,
  res: Response,
  make: () => Promise<unknown>,
): Promise<void> {
  const { body, etag } = await cache.answer(req.originalUrl, sources, make)
  res.set('ETag', etag).type('application/json').send(body)
}

/**
 * One set of routes for every aggregate. Saving is PUT with the revision it started from; without one it
 * makes the thing.
 */
export function shelfRoutes<Input, Item>(
  shelf: Shelf<Input, Item>,
  input: z.ZodType<Input>,
  ready: Ready,
): Router {
  const router = Router()
  const { cache, table } = ready
  router.get('/', (req, res) => sendReady(ready, req, res, () => shelf.list(PageQuery.parse(req.query))))
  router.get('/:id', (req, res) => sendReady(ready, req, res, () => shelf.one(idOf(req.params))))
  // What changes something says so before it answers: nobody who saved may see what stood there before.
  router.put('/:id', async (req, res) => {
    const revision = revisionOf(req.query)
    const saved = await shelf.save(idOf(req.params), revision, input.parse(req.body))
    cache.changed(table)
    res.status(revision === null ? 201 : 200).json(saved)
  })
  router.delete('/:id', async (req, res) => {
    await shelf.remove(idOf(req.params), revisionOf(req.query))
    cache.changed(table)
    res.status(204).end()
  })
  router.post('/:id/restore', async (req, res) => {
    const id = idOf(req.params)
    await shelf.restore(id)
    cache.changed(table)
    res.json(await shelf.one(id))
  })
  return router
}
