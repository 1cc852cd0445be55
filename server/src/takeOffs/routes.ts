import { NoteChange, TakeOffInput } from '@tender/contract'
import type { Router } from 'express'
import { z } from 'zod'
import { addPhotoRoute } from '../blobs/photoRoutes'
import { idOf, shelfRoutes, type Ready } from '../storage/shelfRoutes'
import type { TakeOffShelf } from './repo'

const At = z.string().min(1).max(20)

export function takeOffRoutes(
  takeOffs: TakeOffShelf,
  ready: Ready,
  readByStandIns: (id: string) => Promise<unknown>,
): Router {
  const router = shelfRoutes(takeOffs, TakeOffInput, ready)
  const changed = () => ready.cache.changed(ready.table)
  router.patch('/:id/notes/:at', async (req, res) => {
    const at = At.parse(req.params.at)
    const note = await takeOffs.changeNote(idOf(req.params), at, NoteChange.parse(req.body))
    changed()
    res.json(note)
  })
  router.post('/:id/stand-ins', async (req, res) => {
    // Even where it failed half-way, some of it is written.
    const read = await readByStandIns(idOf(req.params)).finally(changed)
    res.json(read)
  })
  addPhotoRoute(router, takeOffs.addPhoto, changed)
  return router
}
