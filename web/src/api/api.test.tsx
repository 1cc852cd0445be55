/** @jest-environment jsdom */
import { afterEach, describe, expect, jest, test } from '@jest/globals'
import { PretendServer, refusal, show, hooked } from '../testing/view'
import { act, screen, waitFor } from '@testing-library/react'
import { QueryClient } from '@tanstack/react-query'
import { Part, Plan, SpoolFields, StoredFilament } from '@tender/contract'
import { aFilament, aPart, aPlan, idOf } from '../testing/samples'
import { askAhead, forgetAhead } from './ahead'
import { ApiError, ask, meshBytes, sendFile } from './client'
import { readAhead } from './readAhead'
import { shelves, shelfKeys } from './shelves'
import { lastKeptQuery } from './useLastKept'
import { useList, useOne, useRemove, useSave } from './useShelf'

/** What a question comes to when it is refused. */
const problemOf = async (question: Promise<unknown>) => {
  const error = await question.then(
    () => null,
    (reason: unknown) => reason,
  )
  expect(error).toBeInstanceOf(ApiError)
  return (error as ApiError).problem
}

describe('asking the server', () => {
  test('an answer is what the contract says, or it is no answer', async () => {
    new PretendServer(({ path }) => ({
      body: path === '/parts/one' ? aPart() : { ...aPart(), pose: { turn: [9, 9, 9, 9], scale: 1 } },
    }))
    expect((await ask('/parts/one', Part)).name).toBe('Vane pivot')
    expect(await problemOf(ask('/parts/two', Part))).toMatchObject({
      code: 'INTERNAL',
      title: expect.stringContaining('something else than was asked for'),
    })
  })

  test('a refusal keeps its code, its sentence and what it stands against', async () => {
    new PretendServer(() =>
      refusal(409, 'STALE', 'Somebody else has changed it.', { current: aPart({ revision: 7 }) }),
    )
    expect(await problemOf(ask('/parts/one', Part, { method: 'PUT', body: {} }))).toMatchObject({
      code: 'STALE',
      title: 'Somebody else has changed it.',
      current: { revision: 7 },
    })
  })

  test('silence and rubbish are told apart', async () => {
    const server = new PretendServer(() => ({ status: 502, body: '<html>' }))
    expect((await problemOf(ask('/parts', Part))).code).toBe('INTERNAL')
    server.unplugged = true
    expect(await problemOf(ask('/parts', Part))).toMatchObject({
      code: 'OFFLINE',
      title: expect.stringContaining('does not answer'),
    })
  })

  test('a question that was called back is no silence', async () => {
    globalThis.fetch = () => Promise.reject(Object.assign(new Error('called back'), { name: 'AbortError' }))
    await expect(meshBytes('a'.repeat(64))).rejects.toMatchObject({ name: 'AbortError' })
  })

  test('a file goes as it is, and only a body is announced as JSON', async () => {
    const server = new PretendServer(() => ({ body: aPart() }))
    const bytes = Uint8Array.of(1, 2, 3)
    await sendFile('/parts/x/file?name=Vane', bytes, Part)
    expect(server.asked[0]).toMatchObject({ method: 'PUT', path: '/parts/x/file', query: 'name=Vane' })
    expect(server.asked[0].body).toBe(bytes)
  })
})

describe('asking ahead of the code', () => {
  const plan = aPlan()
  const answers: Record<string, object> = {
    [`/plans/${plan.id}`]: plan,
    [`/parts/${plan.partId}`]: aPart({ id: plan.partId }),
  }

  afterEach(forgetAhead)

  test('what a plan will ask for has been asked once; after that it is asked for anew', async () => {
    const server = new PretendServer(({ path }) => ({ body: answers[path] ?? { items: [], total: 0 } }))
    askAhead(`/plans/${plan.id}`)
    const mesh = `/meshes/${aPart().meshSha256}/packed`
    await waitFor(() => expect(server.asked.map(({ path }) => path)).toContain(mesh))
    const before = server.asked.length
    const { result, client } = hooked(() => ({
      plan: useOne('plans', plan.id),
      part: useOne('parts', plan.partId),
      lists: [useList('printers'), useList('filaments'), useList('trials'), useList('takeOffs')],
    }))
    await waitFor(() => expect(result.current.lists.every(({ isSuccess }) => isSuccess)).toBe(true))
    await waitFor(() => expect(result.current.part.data?.id).toBe(plan.partId))
    expect(result.current.plan.data?.id).toBe(plan.id)
    expect(server.asked).toHaveLength(before)
    await act(() => client.refetchQueries({ queryKey: shelfKeys.one('plans', plan.id) }))
    expect(server.asked.slice(before).map(({ path }) => path)).toEqual([`/plans/${plan.id}`])
  })

  test('it is read before there is a view to show it: the view finds all of it, and asks nothing', async () => {
    const last = [{ about: plan.id, key: 'a'.repeat(64), answer: '[1]' }]
    const bodies: Record<string, unknown> = {
      ...answers,
      '/kept/last': last,
      '/families': { families: [], clings: [] },
    }
    const server = new PretendServer(({ path }) => ({ body: bodies[path] ?? { items: [], total: 0 } }))
    const address = `/plans/${plan.id}`
    const client = new QueryClient()
    askAhead(address)
    readAhead(client, address)
    await waitFor(() => expect(client.getQueryData(shelfKeys.one('parts', plan.partId))).toBeDefined())
    await waitFor(() => expect(client.isFetching()).toBe(0))
    const paths = server.asked.map(({ path }) => path)
    expect(paths).toEqual([...new Set(paths)])
    const found = client.getQueryCache().getAll()
    expect(found.map(({ state }) => state.status)).toEqual(found.map(() => 'success'))
    expect(client.getQueryData(lastKeptQuery(plan.id).queryKey)).toEqual(last)
    // A view that shows something else asks for itself.
    readAhead(new QueryClient(), '/bench')
    expect(server.asked).toHaveLength(paths.length)
  })

  test('a refusal is told as one, and nothing is asked of a plan that is not there', async () => {
    const server = new PretendServer(() => refusal(404, 'NOT_FOUND', 'There is no such plan.'))
    askAhead(`/plans/${plan.id}`)
    expect(await problemOf(ask(`/plans/${plan.id}`, Plan))).toMatchObject({ code: 'NOT_FOUND' })
    expect(server.asked.some(({ path }) => path.startsWith('/parts/'))).toBe(false)
  })

  test('an answer that lay for long is an old one', async () => {
    const server = new PretendServer(() => ({ body: plan }))
    const now = jest.spyOn(performance, 'now').mockReturnValue(0)
    try {
      askAhead(`/plans/${plan.id}`)
      now.mockReturnValue(6_000)
      await ask(`/plans/${plan.id}`, Plan)
    } finally {
      now.mockRestore()
    }
    expect(server.asked.filter(({ path }) => path === `/plans/${plan.id}`)).toHaveLength(2)
  })
})

describe('shelves', () => {
  const spool = SpoolFields.parse({ id: idOf(30), label: 'A', gramsLeft: 400 })
  const chalk = aFilament(1, 'Chalk PLA', 'PLA', [spool])

  test('every shelf’s own samples pass its own checks', () => {
    expect(StoredFilament.parse(chalk)).toEqual(chalk)
    expect(shelves.parts.page.parse({ items: [aPart()], total: 1 }).total).toBe(1)
    expect(
      shelves.filaments.item.safeParse({ ...chalk, spools: [{ ...spool, gramsLeft: -1 }] }).success,
    ).toBe(false)
  })

  test('a saved thing is there at once under its own key, and lists are asked for anew', async () => {
    const kept = new Map([[chalk.id, chalk]])
    const server = new PretendServer(({ method, path, body }) => {
      if (method !== 'PUT')
        return {
          body:
            path === '/filaments'
              ? { items: [...kept.values()], total: kept.size }
              : kept.get(path.split('/')[2]),
        }
      const saved = { ...chalk, ...(body as object), revision: 2 }
      kept.set(chalk.id, saved)
      return { body: saved }
    })
    const { result, client } = hooked(() => ({
      list: useList('filaments'),
      one: useOne('filaments', chalk.id),
      save: useSave('filaments'),
    }))
    await waitFor(() => expect(result.current.list.data?.items).toHaveLength(1))
    const { id, revision, updatedAt: _at, ...input } = chalk
    await act(
      async () =>
        void (await result.current.save.mutateAsync({
          id,
          revision,
          input: { ...input, name: 'Chalk two' },
        })),
    )
    expect(server.changes[0]).toMatchObject({ path: `/filaments/${id}`, query: 'revision=1' })
    expect(client.getQueryData(shelfKeys.one('filaments', id))).toMatchObject({
      name: 'Chalk two',
      revision: 2,
    })
    await waitFor(() => expect(result.current.list.data?.items[0].name).toBe('Chalk two'))
  })

  test('a new thing names no revision; a search is part of the question', async () => {
    const server = new PretendServer(({ method }) => ({
      body: method === 'PUT' ? chalk : { items: [], total: 0 },
    }))
    const { result } = hooked(() => ({
      list: useList('filaments', { search: 'a & b' }),
      save: useSave('filaments'),
    }))
    await waitFor(() => expect(result.current.list.isSuccess).toBe(true))
    expect(server.asked[0].query).toBe('limit=500&offset=0&search=a+%26+b')
    const { id, revision: _r, updatedAt: _at, ...input } = chalk
    await act(async () => void (await result.current.save.mutateAsync({ id, revision: null, input })))
    expect(server.changes[0].query).toBe('')
  })

  function Remover() {
    const remove = useRemove('filaments')
    return (
      <button type="button" onClick={() => remove.mutate({ id: chalk.id, name: chalk.name })}>
        Remove
      </button>
    )
  }

  test('removing asks for nothing, says what went, and brings it back', async () => {
    const server = new PretendServer(() => ({ body: null }))
    const { user } = show(<Remover />)
    await user.click(screen.getByRole('button', { name: 'Remove' }))
    expect(await screen.findByText('Removed the filament “Chalk PLA”.')).toBeTruthy()
    await user.click(screen.getByRole('button', { name: 'Bring back' }))
    await waitFor(() =>
      expect(server.changes.map(({ method, path }) => `${method} ${path}`)).toEqual([
        `DELETE /filaments/${chalk.id}`,
        `POST /filaments/${chalk.id}/restore`,
      ]),
    )
    expect(screen.queryByText(/^Removed/)).toBeNull()
  })

  test('what cannot be removed says why and offers nothing to bring back', async () => {
    new PretendServer(() => refusal(409, 'INVALID', 'Two trials were printed in it.'))
    const { user } = show(<Remover />)
    await user.click(screen.getByRole('button', { name: 'Remove' }))
    expect(await screen.findByText('Two trials were printed in it.')).toBeTruthy()
    expect(screen.queryByRole('button', { name: 'Bring back' })).toBeNull()
  })
})
