import { afterEach, expect, test } from '@jest/globals'
import { keyOf } from './keptAnswers'

const safe = globalThis.crypto
const withCrypto = (value: unknown) =>
  Object.defineProperty(globalThis, 'crypto', { value, configurable: true, writable: true })
afterEach(() => void withCrypto(safe))

test('a phone that came by no safe way asks under the same key as the desk: what one worked out, the other finds', async () => {
  expect('subtle' in safe).toBe(true)
  const atDesk = await keyOf('plan of the louvre plate, gap 0.23 mm')
  expect(atDesk).toMatch(/^[0-9a-f]{64}$/)
  withCrypto({ getRandomValues: () => undefined })
  expect(await keyOf('plan of the louvre plate, gap 0.23 mm')).toBe(atDesk)
  expect(await keyOf('plan of the louvre plate, gap 0.24 mm')).not.toBe(atDesk)
})
