import { expect, test } from '@jest/globals'
import { plainFilament } from '../bench'
import { DEFAULT_DECISIONS } from '../decide'
import { bondSentence, releaseChain, surelyFollows } from '.'
import { reconciled } from './reconciled'

const chain = (touching: 'PLA' | 'PETG', upperGapMm: number) =>
  releaseChain({
    ...DEFAULT_DECISIONS,
    part: plainFilament('Chalk', 'PLA', '#ffffff'),
    touching: plainFilament('Touch', touching, '#888888'),
    bulk: plainFilament('Chalk', 'PLA', '#ffffff'),
    upperGapMm,
    contactMm2: 225,
    footprintMm2: 225,
  })

test('what was measured is said first; where the guess says otherwise both are named', () => {
  const doubtful = chain('PETG', 0.06)
  expect(doubtful.interfaceFollows).not.toBe('surely')
  expect(reconciled(doubtful, null)).toBe(doubtful.sentence)
  const clean = reconciled(doubtful, { chance: 0.97, readings: 13, gapMm: 0.06 })
  expect(clean).toMatch(/^13 readings say 97 % come off clean at 0.06 mm; that speaks before the guess/)
  const bad = reconciled(doubtful, { chance: 0.3, readings: 1, gapMm: 0.06 })
  expect(bad).toMatch(/^1 reading says 30 % come off clean .*; by the clings of the families/)
  const sure = chain('PLA', 0.6)
  expect(sure.interfaceFollows).toBe('surely')
  expect(reconciled(sure, { chance: 0.9, readings: 5, gapMm: 0.6 })).toContain(
    'the clings of the families agree',
  )
})

test('what was seen of contacts goes before ladders, those before clings; a few contacts do not undo a clean ladder', () => {
  const doubtful = chain('PETG', 0.06)
  const clean = { chance: 0.92, readings: 16, gapMm: 0.06 }
  expect(surelyFollows(doubtful, null, undefined)).toBe(false)
  expect(surelyFollows(doubtful, clean, undefined)).toBe(true)
  expect(surelyFollows(doubtful, clean, { came: 2, stayed: 1 })).toBe(true)
  expect(surelyFollows(doubtful, clean, { came: 2, stayed: 8 })).toBe(false)
  expect(surelyFollows(doubtful, null, { came: 9, stayed: 0 })).toBe(true)
  expect(bondSentence(doubtful, clean, { came: 2, stayed: 1 })).toMatch(
    /^16 readings say 92 % .*\. Of 3 contacts taken off, the interface came along at 2\.$/,
  )
})
