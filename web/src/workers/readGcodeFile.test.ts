import { expect, test } from '@jest/globals'
import { DEFAULT_PLAN } from '@tender/core/decide'
import { readGcodeFile } from './readGcodeFile'

/** A file that comes in pieces, cut wherever it happens. */
const read = (text: string, shares: number[] = []) =>
  readGcodeFile(
    new Blob(text.match(/[^]{1,30011}/g)!),
    DEFAULT_PLAN,
    async (share) => void shares.push(share),
  )

test('a file comes out the same whatever pieces it is read in, with its progress', async () => {
  const lines = Array.from({ length: 40_000 }, (_, i) => `G1 X${i % 200} Y${(i * 7) % 150} E0.05`)
  const text = ['M83', 'G1 X0 Y0 Z0.2 F3000', ...lines].join('\n')
  const shares: number[] = []
  const found = await read(text, shares)
  expect(found.lines).toBe(40_002)
  expect(found.tools[0].lengthMm).toBeCloseTo(0.05 * 40_000, 3)
  expect(shares.length).toBeGreaterThan(3)
  expect(shares.at(-1)).toBe(1)
})

test('what is no G-code, and what has no end of lines, is refused with its line', async () => {
  await expect(read('solid table\nfacet normal')).rejects.toThrow(/Nothing in this file moves a nozzle/)
  await expect(read('x'.repeat(200_000))).rejects.toThrow(/Line 1 is \d+ characters long/)
})
