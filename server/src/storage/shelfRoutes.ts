import { PageQuery, Revision, type Page } from '@tender/contract'
import { Router } from 'express'
import { z } from 'zod'

/** What every aggregate can do: listed, read, saved, removed and brought back. */
export type Shelf<Input, Item> = {
  list(query: PageQuery): Promise<Page<Item>>
  one(id: string): Promise<Item>
  save(id: string, revision: number | null, input: Input): Promise<Item>
  remove(id: string): Promise<void>
  restore(id: string): Promise<void>
}

/** The address of one thing; anything that is no identity is simply not there. */
export const idOf = (params: Record<string, unknown>): string => z.uuid().parse(params.id)

/** One set of routes for every aggregate. Saving is PUT with the revision it started from; without one it makes the thing. */
export function shelfRoutes<Input, Item>(shelf: Shelf<Input, Item>, input: z.ZodType<Input>): Router {
  const router = Router()
  router.get('/', async (req, res) => void res.json(await shelf.list(PageQuery.parse(req.query))))
  router.get('/:id', async (req, res) => void res.json(await shelf.one(idOf(req.params))))
  router.put('/:id', async (req, res) => {
    const revision = req.query.revision === undefined ? null : Revision.parse(req.query.revision)
    res.status(revision === null ? 201 : 200).json(await shelf.save(idOf(req.params), revision, input.parse(req.body)))
  })
  router.delete('/:id', async (req, res) => {
    await shelf.remove(idOf(req.params))
    res.status(204).end()
  })
  router.post('/:id/restore', async (req, res) => {
    const id = idOf(req.params)
    await shelf.restore(id)
    res.json(await shelf.one(id))
  })
  return router
}
