/** @jest-environment jsdom */
import { afterEach, beforeEach, expect, jest, test } from '@jest/globals'
import { pass, PretendServer, refusal, hooked } from '../../testing/view'
import { act } from '@testing-library/react'
import type { PartInput } from '@tender/contract'
import { aPart } from '../../testing/samples'
import { usePartDraft } from './usePartDraft'

beforeEach(() => void jest.useFakeTimers())
afterEach(() => void jest.useRealTimers())

const storing = () => {
  let revision = 1
  return new PretendServer(({ body }) => ({
    body: { ...aPart(), ...(body as object), revision: ++revision },
  }))
}
const tagsOf = (body: unknown) => (body as PartInput).tags

test('changes are saved a moment after the last one, each from the revision before', async () => {
  const server = storing()
  const { result } = hooked(() => usePartDraft(aPart()))
  act(() => result.current.change({ tags: ['mast'] }))
  act(() => result.current.change({ tags: ['mast', 'top'] }))
  await pass(600)
  act(() => result.current.change({ name: 'Pivot' }))
  await pass(600)
  expect(server.changes.map(({ query, body }) => [query, tagsOf(body), (body as PartInput).name])).toEqual([
    ['revision=1', ['mast', 'top'], 'Vane pivot'],
    ['revision=2', ['mast', 'top'], 'Pivot'],
  ])
})

test('undo goes back one change at a time, strokes of a brush together, and is saved as well', async () => {
  const server = storing()
  const { result } = hooked(() => usePartDraft(aPart()))
  act(() => result.current.change({ tags: ['one'] }))
  await pass(600)
  act(() => result.current.change({ tags: ['stroke'] }))
  act(() => result.current.change({ tags: ['stroke', 'goes on'] }, true))
  act(() => result.current.undo())
  expect(result.current.draft.tags).toEqual(['one'])
  act(() => result.current.undo())
  expect(result.current.draft.tags).toEqual([])
  expect(result.current.canUndo).toBe(false)
  act(() => result.current.undo())
  await pass(600)
  expect(server.changes.map(({ body }) => tagsOf(body))).toEqual([['one'], []])
})

test('a change right before the part is left is saved all the same', async () => {
  const server = storing()
  const { result, unmount } = hooked(() => usePartDraft(aPart()))
  act(() => result.current.change({ tags: ['late'] }))
  await pass(50)
  unmount()
  await pass(10)
  expect(server.changes.map(({ body }) => tagsOf(body))).toEqual([['late']])
})

test('a part that was looked at and left alone is not saved', async () => {
  const server = storing()
  const { unmount } = hooked(() => usePartDraft(aPart()))
  await pass(1000)
  unmount()
  await pass(10)
  expect(server.changes).toHaveLength(0)
})

test('a refused save is told, and the draft stays', async () => {
  new PretendServer(() =>
    refusal(409, 'STALE', 'Somebody else has changed this part.', { current: aPart({ revision: 5 }) }),
  )
  const { result } = hooked(() => usePartDraft(aPart()))
  act(() => result.current.change({ tags: ['mine'] }))
  await pass(600)
  expect(result.current.conflict?.revision).toBe(5)
  expect(result.current.draft.tags).toEqual(['mine'])
  act(() => result.current.takeTheirs())
  expect(result.current.draft.tags).toEqual([])
  expect(result.current.conflict).toBeNull()
})

test('a change made while a save is under way waits for it, and starts from its revision', async () => {
  let answer = () => {}
  const answered = new Promise<void>((resolve) => (answer = resolve))
  let revision = 1
  const server = new PretendServer(async ({ body }) => {
    await answered
    return { body: { ...aPart(), ...(body as object), revision: ++revision } }
  })
  const { result } = hooked(() => usePartDraft(aPart()))
  act(() => result.current.change({ tags: ['first'] }))
  await pass(600)
  act(() => result.current.change({ tags: ['second'] }))
  await pass(2000)
  expect(server.changes).toHaveLength(1)
  answer()
  await pass(600)
  act(() => result.current.change({ tags: ['third'] }))
  await pass(600)
  expect(server.changes.map(({ query, body }) => [query, tagsOf(body)])).toEqual([
    ['revision=1', ['first']],
    ['revision=2', ['second']],
    ['revision=3', ['third']],
  ])
})
