/** @jest-environment jsdom */
import { expect, jest, test } from '@jest/globals'
import { newDocument } from '@tender/core/decide'
import type { ReleaseCheck } from '@tender/core/release'
import { act, waitFor } from '@testing-library/react'
import type { Told } from '../../workers/told'
import { PretendServer, hooked } from '../../testing/view'

const check: ReleaseCheck = { verdict: 'comes out whole', stands: [] }
type Look = (id: string, document: unknown, onShare: (share: number) => void) => Promise<object>
const release = jest.fn<Look>()
jest.unstable_mockModule('../../workers/geometry', () => ({
  planning: () => ({ release }),
  proxy: (told: unknown) => told,
}))

test('a check that failed is asked for again on request, and then told', async () => {
  new PretendServer(() => ({ body: null }))
  const { useRelease } = await import('./useRelease')
  release.mockRejectedValueOnce(new Error('gone'))
  release.mockImplementationOnce(async (_id, _document, onShare) => {
    onShare(0.5)
    return { ok: true, value: check }
  })
  const document = newDocument({})
  const { result } = hooked(() => useRelease('plan 1', document))
  const { share } = result.current as { share: Told<number> }
  expect(share.now()).toBe(0)
  await waitFor(() => expect(result.current).toHaveProperty('again'))
  expect(release).toHaveBeenCalledTimes(1)
  act(() => (result.current as { again(): void }).again())
  expect(result.current).not.toHaveProperty('again')
  await waitFor(() => expect(result.current).toEqual({ check }))
  expect(release).toHaveBeenCalledTimes(2)
  expect(share.now()).toBe(0.5)
})
