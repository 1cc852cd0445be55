/** @jest-environment jsdom */
import { describe, expect, jest, test } from '@jest/globals'
import { plainFilament } from '@tender/core/bench'
import {
  changePlan,
  newDocument,
  NOTHING_LEARNT,
  type Decisions,
  type PlanChange,
  type PlanDocument,
} from '@tender/core/decide'
import type { Contact, PlanRelease, PlanSummary, StandRelease } from '@tender/core/plan'
import { act, screen, within } from '@testing-library/react'
import { useState, type ReactNode } from 'react'
import { show } from '../../testing/view'
import { Told } from '../../workers/told'
import { ComingOff, minutesSentence } from './ComingOff'
import { Exceptions } from './Exceptions'
import { labelOf } from './inWords'
import { Letter } from './Letter'
import { PlanContext, type PlanSetting } from './PlanContext'
import { standOutcome } from './Remedies'
import type { Thought } from './useWhatIf'

const chalk = plainFilament('Chalk PLA', 'PLA', '#d8d3c8')
const moss = plainFilament('Moss PETG', 'PETG', '#6d7f4b')
const mist = plainFilament('Mist PVA', 'PVA', '#e6dfb8')
const contact = (kind: Contact['kind'], zMm: number) =>
  ({ kind, zMm, atMm: [3, 4], areaMm2: 60, access: 'open' }) as unknown as Contact
const summary = {
  contacts: [contact('flat', 28), contact('sloped', 3.6)],
  estimate: { massG: 80, roles: { purge: { g: 0 } } },
  warnings: [],
  swaps: 232,
  timeS: 20_000,
  pTender: null,
} as unknown as PlanSummary

function Under({
  start,
  told,
  shelf = [],
  children = <Exceptions chosen={summary.contacts[0]} />,
}: {
  start: PlanDocument
  told: (document: PlanDocument) => void
  /** What is on the bench. */ shelf?: PlanDocument['filaments']
  children?: ReactNode
}) {
  const [document, setDocument] = useState(start)
  told(document)
  const change = (next: PlanChange) => setDocument((before) => changePlan(before, next))
  const setting = {
    document,
    summary,
    meshKey: undefined,
    printers: [],
    filaments: shelf,
    trials: [],
    newer: {},
    resultId: null,
    evidenceOf: (of: PlanDocument) => of.evidence,
    after: (next: PlanChange) => changePlan(document, next),
    change,
    decide: (decisions: PlanDocument['decisions']) => change({ decisions }),
    broughtAlong: (filament: PlanDocument['filaments'][number]) => filament,
    takeNewer: jest.fn(),
    past: { undo: null, redo: null },
  } as unknown as PlanSetting
  return <PlanContext value={setting}>{children}</PlanContext>
}
const shown = (more: Parameters<typeof newDocument>[0] = {}) => {
  const told = jest.fn<(document: PlanDocument) => void>()
  const start = newDocument({ filaments: [chalk, moss], ...more })
  const view = show(<Under start={start} told={told} />)
  return { ...view, now: () => told.mock.lastCall![0], start }
}
const press = async (user: ReturnType<typeof show>['user'], name: string | RegExp, role = 'button') =>
  user.click(screen.getByRole(role, { name }))

test('every value of a plan is a token of its letter', () => {
  // One that leans, rests on the part, swaps and builds a tower has all there is to say.
  const start = newDocument({
    filaments: [chalk, moss],
    decisions: {
      ...{ partFilament: chalk.id, standFilament: chalk.id, interfaceFilament: moss.id },
      ...{ standKind: 'branching', placement: 'anywhere', purgeWhere: 'tower', denseTopMm: 2 },
    },
  })
  show(
    <Under start={start} told={() => undefined}>
      <Letter chosen={null} />
    </Under>,
  )
  const labels = screen.getAllByRole('button').map((one) => one.getAttribute('aria-label') ?? '')
  const missing = Object.keys(start.decisions)
    // Limits of the sides are on the card of the free angle.
    .filter((name) => name !== 'sideAnglesDeg')
    .map((name) => labelOf(name as keyof Decisions))
    .filter((label) => !labels.some((one) => one.startsWith(`${label}: `)))
  expect(missing).toEqual([])
})

describe('exceptions in the letter', () => {
  test('one is made for a kind of underside, differs where it is told to, moves by keys and goes again', async () => {
    const { user, now, start } = shown()
    await press(user, 'Make an exception')
    await press(user, 'Under flat undersides', 'menuitem')
    expect(now().exceptions).toEqual([{ where: { kind: 'flat' }, upperGapMm: start.decisions.upperGapMm }])
    const gap = screen.getByRole('button', { name: /^Upper gap: 0.20/ })
    act(() => gap.focus())
    await user.keyboard('{ArrowUp}{ArrowUp}')
    expect(now().exceptions[0].upperGapMm).toBeCloseTo(start.decisions.upperGapMm + 0.02, 9)
    // The letter's own gap stays.
    expect(now().decisions.upperGapMm).toBe(start.decisions.upperGapMm)
    await press(user, 'What differs under flat undersides')
    await press(user, 'Kind of stands', 'menuitemcheckbox')
    await user.keyboard('{Escape}')
    expect(now().exceptions[0]).toMatchObject({ standKind: 'straight', where: { kind: 'flat' } })
    await press(user, 'Remove the exception under flat undersides')
    expect(now().exceptions).toEqual([])
  })

  test('whatever a plan file says of one is said, and stays when something else is chosen besides', async () => {
    const told = {
      stackMode: 'shared',
      denseTopMm: 2,
      denseTopDensity: 0.5,
      lowerInterfaceLayers: 2,
    } as const
    const { user, now } = shown({ exceptions: [{ where: { kind: 'flat' }, ...told }] })
    for (const name of [
      /^Thickness of interface layers/,
      /^Denser top/,
      /^Density of the top/,
      /^Interface layers below/,
    ])
      expect(screen.getByRole('button', { name })).toBeTruthy()
    await press(user, 'What differs under flat undersides')
    await press(user, 'Side gap', 'menuitemcheckbox')
    expect(now().exceptions).toEqual([
      { where: { kind: 'flat' }, ...told, sideGapMm: now().decisions.sideGapMm },
    ])
  })

  test('a post is set under the underside that is looked at, made wider by keys, and removed', async () => {
    const { user, now } = shown()
    await press(user, 'Make an exception')
    await press(user, 'A post by hand under 28.00 mm', 'menuitem')
    expect(now().posts).toEqual([{ atMm: [3, 4, 28], widthMm: 4 }])
    const token = screen.getByRole('button', { name: /^Post under 28 mm: 4.mm wide/ })
    act(() => token.focus())
    await user.keyboard('{ArrowUp}{ArrowUp}{ArrowDown}')
    expect(now().posts).toEqual([{ atMm: [3, 4, 28], widthMm: 4.5 }])
    await user.keyboard('{Backspace}')
    expect(now().posts).toEqual([])
  })

  test('where another filament touches everything, flat undersides alone are offered; taking it is one change', async () => {
    const { user, now } = shown({ decisions: { interfaceFilament: moss.id } })
    await press(user, /^Only flat undersides in Moss PETG/)
    await press(user, 'Take it')
    expect(now().decisions.interfaceFilament).toBe(chalk.id)
    expect(now().exceptions).toMatchObject([{ where: { kind: 'flat' }, interfaceFilament: moss.id }])
    expect(
      now()
        .filaments.map(({ name }) => name)
        .toSorted(),
    ).toEqual(['Chalk PLA', 'Moss PETG'])
  })
})

test('how it comes off: each stand in words, the place it leads to, and a guess called one', async () => {
  const stand = (more: Partial<StandRelease>): StandRelease => ({
    atMm: [1, 2, 12],
    verdict: 'comes out whole',
    reachMm: 40,
    wayMm: [],
    wayOut: 'toward the front',
    pieces: 1,
    neckMm: null,
    drains: null,
    contactMm2: 100,
    pullN: null,
    holdsN: null,
    minutes: 2,
    reasons: [],
    remedies: [],
    ...more,
  })
  const check: PlanRelease = {
    verdict: 'locked in',
    stands: [
      stand({}),
      stand({
        verdict: 'comes out in pieces',
        wayOut: null,
        pieces: 2,
        reachMm: 8,
        reasons: ['only a tool up to 8.0 mm wide gets to it'],
      }),
      stand({
        verdict: 'locked in',
        wayOut: null,
        pieces: null,
        reachMm: 0,
        atMm: [9, 9, 30],
        remedies: [{ words: 'leave that underside free', change: { decisions: { supports: false } } }],
      }),
    ],
  }
  const onPlace = jest.fn()
  const told = jest.fn<(document: PlanDocument) => void>()
  const { user } = show(
    <Under start={newDocument({ filaments: [chalk] })} told={told} shelf={[moss, mist]}>
      <ComingOff release={{ check }} learnt={NOTHING_LEARNT} onPlace={onPlace} partId="part" />
    </Under>,
  )
  const stands = screen.getAllByRole('listitem').map((one) => within(one).getAllByRole('button'))
  const words = stands.map((buttons) => buttons.map((one) => one.textContent))
  expect(words[0]).toEqual([expect.stringMatching(/^Whole, toward the front.*open to any tool/)])
  // What comes out through a narrow opening may be washed out; what is closed may not.
  expect(words[1]).toEqual([
    expect.stringMatching(/^Broken in 2.*tools to 8\.0\smm.*gets to it\./),
    'stands and interface in Mist PVA, which dissolves',
  ])
  expect(words[2]).toEqual([expect.stringMatching(/^Locked in/), 'leave that underside free'])
  await user.click(stands[2][0])
  expect(onPlace).toHaveBeenCalledWith([9, 9, 30])
  expect(screen.getByText(/About 6 min in all, a guess/)).toBeTruthy()
  await user.click(stands[1][1])
  await press(user, 'Change this plan')
  expect(told.mock.lastCall![0].decisions).toMatchObject({
    standFilament: mist.id,
    interfaceFilament: mist.id,
  })
  const outcome = (of: StandRelease, stands: readonly StandRelease[]) =>
    standOutcome(of, check.stands.length, { release: { ...check, stands } } as unknown as Thought)
  const [open, narrow, closed] = check.stands
  expect(outcome(open, check.stands)).toBe(
    'What stands there then: Whole, toward the front; nothing to mind.',
  )
  expect(outcome(closed, [open, narrow])).toBe('Nothing stands there then.')
  // One that is as likely another one now is not spoken of alone.
  expect(outcome(closed, [open, narrow, stand({})])).toBe('How they come off then: some are locked in.')
  const share = new Told(0)
  const { unmount } = show(
    <ComingOff release={{ share }} learnt={NOTHING_LEARNT} onPlace={onPlace} partId="part" />,
  )
  act(() => share.tell(0.4))
  expect(screen.getByRole<HTMLProgressElement>('progressbar').value).toBe(0.4)
  unmount()
  const again = jest.fn()
  const failed = show(
    <ComingOff release={{ again }} learnt={NOTHING_LEARNT} onPlace={onPlace} partId="part" />,
  )
  expect(screen.getByText(/could not be told this time/)).toBeTruthy()
  await failed.user.click(screen.getByRole('button', { name: 'Look again' }))
  expect(again).toHaveBeenCalledTimes(1)
  // The button goes then; who pressed it stays where its answer comes.
  expect(document.activeElement).toBe(screen.getAllByRole('region', { name: 'How it comes off' }).at(-1))
  const timed = { factor: { median: 1.5, low: 1, high: 2 }, takeOffs: 3 }
  expect(minutesSentence(6, timed)).toBe('About 9 min in all (6 to 12) by 3 take-offs; guessed were 6.')
})
