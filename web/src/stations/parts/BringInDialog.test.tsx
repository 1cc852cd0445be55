/** @jest-environment jsdom */
import { expect, jest, test } from '@jest/globals'
import { PretendServer, refusal, show } from '../../testing/view'
import { screen, waitFor, within } from '@testing-library/react'
import { guessUnit } from '@tender/core/mesh'
import type { Part } from '@tender/contract'
import type { ReadReport } from '../../workers/geometry/partCalls'
import { aPart, idOf } from '../../testing/samples'
import type { Brought } from './BringIn'
import { BringInDialog } from './BringInDialog'

const report = (changes: Partial<ReadReport> = {}): ReadReport => ({
  facts: aPart().facts,
  notes: [],
  unit: guessUnit(30),
  unitKnown: false,
  bodies: [''],
  sha256: 'b'.repeat(64),
  picture: 'data:,',
  ...changes,
})
const brought = (name: string, changes: Partial<ReadReport> = {}): Brought => ({
  file: new File(['solid'], name),
  report: report(changes),
})

/** Keeps parts as the server does; the scale it guesses is given. */
function shelf(known: readonly Part[] = [], scale = 1) {
  const made: Part[] = []
  return new PretendServer(({ method, path, query, body }) => {
    if (method === 'GET') return { body: { items: known, total: known.length } }
    const id = path.split('/')[2]
    if (path.endsWith('/file')) {
      const asked = new URLSearchParams(query)
      const part = aPart({
        id,
        name: asked.get('name')!,
        fileName: asked.get('fileName')!,
        olderId: asked.get('olderId'),
        pose: { ...aPart().pose, scale },
      })
      made.push(part)
      return { body: part }
    }
    return { body: { ...made.find((one) => one.id === id)!, ...(body as object), revision: 2 } }
  })
}
/** Comes up when it is known what else there is. */
const dialog = async (files: readonly Brought[], refused: readonly string[] = []) => {
  const onClose = jest.fn()
  const view = show(<BringInDialog files={files} refused={refused} onClose={onClose} />)
  expect(screen.queryByRole('dialog')).toBeNull()
  await screen.findByRole('dialog')
  return { ...view, onClose }
}
const sent = (server: PretendServer) =>
  server.changes.map(({ path, query }) =>
    `${path.split('/').slice(3).join('/')} ${new URLSearchParams(query).get('name') ?? ''}`.trim(),
  )

test('a file is told as it is, gets a name a person would give, and goes in', async () => {
  const server = shelf()
  const { user, onClose } = await dialog([
    brought('vane_pivot-v2.stl', { notes: ['2 triangles faced the wrong way; they were turned round.'] }),
  ])
  expect(screen.getByText(/12 triangles in 1 shell/).textContent).toMatch(
    /10 × 20 × 30 mm\. Closed, 6(\.00)? cm³/,
  )
  expect(screen.getByText(/turned round/)).toBeTruthy()
  expect((screen.getByRole('textbox', { name: 'Name of the part' }) as HTMLInputElement).value).toBe(
    'vane pivot v2',
  )
  await user.click(screen.getByRole('button', { name: 'Bring it in' }))
  await waitFor(() => expect(onClose).toHaveBeenCalled())
  expect(sent(server)).toEqual(['file vane pivot v2'])
})

test('when nobody tells what else there is, it comes up all the same', async () => {
  new PretendServer(() => refusal(500, 'INTERNAL', 'Something went wrong.'))
  await dialog([brought('clip.stl')])
  expect(screen.queryByRole('button', { name: /A newer version of/ })).toBeNull()
})

test('drawn in inches: sizes follow the choice, and the scale is saved when the server guessed another', async () => {
  const server = shelf([], 1)
  const { user } = await dialog([
    brought('clip.stl', { facts: { ...aPart().facts, sizeMm: [1, 2, 3], volumeMm3: 6 }, unit: guessUnit(3) }),
  ])
  expect(screen.getByText(/Drawn in inches, it would be 76.2 mm/)).toBeTruthy()
  expect(screen.getByText(/^25.4 × 50.8 × 76.2$/)).toBeTruthy()
  await user.click(screen.getByRole('radio', { name: 'millimetres' }))
  expect(screen.getByText(/^1(\.00)? × 2(\.00)? × 3(\.00)?$/)).toBeTruthy()
  await user.click(screen.getByRole('radio', { name: 'inches' }))
  await user.click(screen.getByRole('button', { name: 'Bring it in' }))
  await waitFor(() => expect(server.changes).toHaveLength(2))
  expect(server.changes[1]).toMatchObject({
    method: 'PUT',
    query: 'revision=1',
    body: { pose: { scale: 25.4 } },
  })
})

test('without a name nothing can be brought in', async () => {
  shelf()
  const { user } = await dialog([brought('clip.stl')])
  await user.clear(screen.getByRole('textbox', { name: 'Name of the part' }))
  expect(screen.getByText('A part needs a name.')).toBeTruthy()
  expect(screen.getByRole('button', { name: 'Bring it in' }).hasAttribute('disabled')).toBe(true)
})

test('the very same file is recognised, and a file of the same name offered as a newer version', async () => {
  const old = aPart({ id: idOf(71), name: 'Clip', fileName: 'clip.stl' })
  const server = shelf([
    old,
    aPart({ id: idOf(72), name: 'Twin', meshSha256: 'b'.repeat(64), fileName: 'twin.stl' }),
  ])
  const { user } = await dialog([brought('clip.stl')])
  expect((await screen.findByRole('link', { name: 'Twin' })).getAttribute('href')).toBe(`/parts/${idOf(72)}`)
  await user.click(screen.getByRole('button', { name: 'It is a newer version' }))
  await user.click(screen.getByRole('button', { name: 'Bring it in' }))
  await waitFor(() => expect(server.changes).toHaveLength(1))
  expect(new URLSearchParams(server.changes[0].query).get('olderId')).toBe(old.id)
  expect(sent(server)).toEqual(['file Clip'])
})

test('several files: told apart, refused ones by name, stored one after the other', async () => {
  const server = shelf()
  const { user } = await dialog(
    [brought('a.stl'), brought('b.obj', { bodies: ['lid', ''] })],
    ['“c.stl” was not taken in. The file is empty.'],
  )
  expect(within(screen.getByRole('dialog', { name: '2 files' })).getByRole('alert').textContent).toContain(
    'c.stl',
  )
  expect(screen.getByText(/2 bodies: lid, Body 2/)).toBeTruthy()
  expect(screen.getByRole('radio', { name: 'one part of 2 bodies' })).toBeTruthy()
  await user.click(screen.getByRole('button', { name: 'Bring them in' }))
  await waitFor(() => expect(sent(server)).toEqual(['file a', 'file b']))
})

test('a refusal of the server stands in the dialog, which stays', async () => {
  new PretendServer(({ method }) =>
    method === 'GET'
      ? { body: { items: [], total: 0 } }
      : refusal(413, 'TOO_LARGE', 'The file is larger than this server takes in. Nothing was stored.'),
  )
  const { user, onClose } = await dialog([brought('a.stl')])
  await user.click(screen.getByRole('button', { name: 'Bring it in' }))
  expect(await screen.findByText(/larger than this server takes in/)).toBeTruthy()
  expect(onClose).not.toHaveBeenCalled()
})
