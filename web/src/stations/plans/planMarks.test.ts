import { expect, test } from '@jest/globals'
import type { Contact, PlanSummary } from '@tender/core/plan'
import type { ReleaseCheck } from '@tender/core/release'
import { contactAt, marksOf, waysOf } from './planMarks'

const contact = (more: Partial<Contact>) =>
  ({
    zMm: 10,
    topMm: 10,
    wantedMm2: 100,
    areaMm2: 100,
    unheldMm2: {},
    atMm: [0, 0],
    ...more,
  }) as Contact

test('what stays free is marked with its area, height and main reason; what nearly all is held is not', () => {
  const summary = {
    contacts: [
      contact({}),
      contact({ areaMm2: 96, unheldMm2: { 'too narrow': 4 } }),
      contact({ areaMm2: 40, zMm: 28, atMm: [3, 4], unheldMm2: { 'too narrow': 5, 'no way down': 55 } }),
      contact({ areaMm2: 0, wantedMm2: 4, unheldMm2: { 'no room': 4 } }),
    ],
    islands: [
      { zMm: 12, atMm: [7, 8], held: false },
      { zMm: 15, atMm: [1, 1], held: true },
    ],
  } as unknown as PlanSummary
  const marks = marksOf(summary)
  expect(marks.map(({ label, atMm, text }) => [text, label, atMm])).toEqual([
    ['!', 'An island at 12.00 mm starts in mid-air', [7, 8, 12]],
    ['!', '60 mm² at 28.00 mm stay free: with no way down to what a stand may rest on', [3, 4, 28]],
  ])
})

test('a click finds the underside at its height; of several the nearest, and none where none is near', () => {
  const contacts = [
    contact({ zMm: 10, topMm: 10, atMm: [0, 0] }),
    contact({ zMm: 10, topMm: 10, atMm: [40, 0] }),
    contact({ zMm: 20, topMm: 30, atMm: [0, 0] }),
  ]
  expect(contactAt(contacts, [5, 5, 10])).toBe(0)
  expect(contactAt(contacts, [30, 5, 10.2])).toBe(1)
  expect(contactAt(contacts, [60, 60, 26])).toBe(2)
  expect(contactAt(contacts, [0, 0, 15])).toBeNull()
})

test('the way to a stand is drawn from it to beyond the part, and says how wide a tool gets in', () => {
  const stands = [
    {
      reachMm: 8.04,
      atMm: [1, 2, 12],
      wayMm: [
        [1, 2, 12],
        [1, 9, 12],
        [1, 9, 20],
      ],
    },
    { reachMm: 40, atMm: [0, 0, 3], wayMm: [] },
  ]
  const { points, marks } = waysOf({ verdict: 'comes out whole', stands } as unknown as ReleaseCheck)
  expect([...points]).toEqual([...[1, 2, 12, 1, 9, 12], ...[1, 9, 12, 1, 9, 20], ...[1, 9, 20, 1, 9, 28]])
  expect(marks).toMatchObject([
    { atMm: [1, 9, 28], label: 'Tools up to 8.0 mm wide get in here, to the stand at 12 mm' },
  ])
  expect(waysOf(null).marks).toEqual([])
})
