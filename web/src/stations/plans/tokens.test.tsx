/** @jest-environment jsdom */
import { beforeEach, describe, expect, jest, test } from '@jest/globals'
import { PretendServer, show } from '../../testing/view'
import { cleanup, act, screen, within } from '@testing-library/react'
import {
  changePlan,
  DECISION_RANGES,
  DEFAULT_PLAN,
  type Evidence,
  type PlanChange,
  type PlanDocument,
} from '@tender/core/decide'
import { type PlanSummary } from '@tender/core/plan'
import type { StandCheck } from '@tender/core/release'
import { useState, type ReactNode } from 'react'
import { Checks } from './Checks'
import { Differences } from './Differences'
import { Paragraph } from './Paragraph'
import { PlanContext, ReleaseContext, type PlanSetting } from './PlanContext'
import { outcomeOf } from './Remedies'
import { ChoiceToken, NumberToken } from './Token'
import { Totals } from './Totals'

const measured: Evidence = {
  value: 0.23,
  low: 0.19,
  high: 0.26,
  source: 'measured',
  sentence: 'Tiles from 0.2 to 0.25 mm came off clean.',
  trials: [{ id: 't', name: 'Chalk on Chalk' }],
  readings: 9,
  newest: '2026-11-20',
  mismatches: ['Printed at 40 mm/s, planned for 60.'],
}

/** Tokens in a plan whose decisions really change. */
function Letter({
  start,
  told,
  more = {},
  children,
}: {
  start: PlanDocument
  told: (document: PlanDocument) => void
  more?: Partial<PlanSetting>
  children: ReactNode
}) {
  const [document, setDocument] = useState(start)
  told(document)
  const change = (next: PlanChange) => setDocument((before) => changePlan(before, next))
  const nothing = {
    summary: null,
    meshKey: undefined,
    printers: [],
    filaments: [],
    trials: [],
    newer: {},
    resultId: null,
    takeNewer: jest.fn(),
    past: { undo: null, redo: null },
  }
  return (
    <PlanContext
      value={
        {
          ...nothing,
          document,
          change,
          decide: (decisions) => change({ decisions }),
          after: (next) => changePlan(document, next),
          ...more,
        } as PlanSetting
      }
    >
      {children}
    </PlanContext>
  )
}

function letter(children: ReactNode, start: Partial<PlanDocument> = {}, more: Partial<PlanSetting> = {}) {
  let latest = DEFAULT_PLAN
  const view = show(
    <Letter start={{ ...DEFAULT_PLAN, ...start }} told={(document) => (latest = document)} more={more}>
      {children}
    </Letter>,
  )
  return { ...view, decisions: () => latest.decisions }
}

beforeEach(() => {
  localStorage.clear()
  new PretendServer(() => ({ body: { items: [], total: 0 } }))
})

describe('a number in the letter', () => {
  test('arrow keys step it by its own step and stop at its range', async () => {
    const [low, high, step] = DECISION_RANGES.upperGapMm
    const { user, decisions } = letter(<NumberToken name="upperGapMm" />, {
      decisions: { ...DEFAULT_PLAN.decisions, upperGapMm: high - 1.5 * step },
    })
    act(() => screen.getByRole('button', { name: /^Upper gap/ }).focus())
    await user.keyboard('{ArrowUp}')
    expect(decisions().upperGapMm).toBeCloseTo(high - 0.5 * step, 9)
    await user.keyboard('{ArrowUp}{ArrowUp}')
    expect(decisions().upperGapMm).toBe(high)
    await user.keyboard('{ArrowDown}')
    expect(decisions().upperGapMm).toBeCloseTo(high - step, 9)
    for (let i = 0; i < 60; i++) await user.keyboard('{ArrowDown}')
    expect(decisions().upperGapMm).toBeGreaterThanOrEqual(low)
  })

  test('it says where it comes from; a wish of one’s own says so, and Backspace takes it back to the evidence', async () => {
    const { user, decisions } = letter(<NumberToken name="upperGapMm" />, {
      decisions: { ...DEFAULT_PLAN.decisions, upperGapMm: 0.23 },
      evidence: { upperGapMm: measured },
    })
    const token = screen.getByRole('button', { name: /^Upper gap: 0.23.mm, measured$/ })
    act(() => token.focus())
    await user.keyboard('{ArrowUp}')
    expect(token.getAttribute('aria-label')).toMatch(/^Upper gap: 0.24.mm, your own wish$/)
    await user.keyboard('{Backspace}')
    expect(decisions().upperGapMm).toBe(0.23)
    expect(token.getAttribute('aria-label')).toContain('measured')
  })

  test('without evidence Backspace changes nothing', async () => {
    const { user, decisions } = letter(<NumberToken name="marginMm" />)
    const before = decisions().marginMm
    act(() => screen.getByRole('button').focus())
    await user.keyboard('{Backspace}')
    expect(decisions().marginMm).toBe(before)
  })

  test('its card gives the sentence, the trials and the mismatches, takes typed values, and closes by Escape', async () => {
    const { user, decisions } = letter(<NumberToken name="upperGapMm" />, {
      decisions: { ...DEFAULT_PLAN.decisions, upperGapMm: 0.3 },
      evidence: { upperGapMm: measured },
    })
    await user.click(screen.getByRole('button', { name: /^Upper gap/ }))
    const card = within(await screen.findByRole('dialog'))
    expect(card.getByText(/came off clean/).textContent).toMatch(/From Chalk on Chalk, 9 readings/)
    expect(card.getByRole('link', { name: 'Chalk on Chalk' }).getAttribute('href')).toBe('/trials/t')
    expect(card.getByText(/planned for 60/)).toBeTruthy()
    const field = card.getByRole('textbox')
    await user.clear(field)
    await user.type(field, '9{Tab}')
    expect(decisions().upperGapMm).toBe(DECISION_RANGES.upperGapMm[1])
    await user.click(card.getByRole('button', { name: /^Back to 0.23.mm$/ }))
    expect(decisions().upperGapMm).toBe(0.23)
    await user.keyboard('{Escape}')
    expect(screen.queryByRole('dialog')).toBeNull()
  })

  test('newer readings are offered, and taken when asked', async () => {
    const takeNewer = jest.fn()
    const { user } = letter(
      <NumberToken name="upperGapMm" />,
      { evidence: { upperGapMm: measured } },
      { newer: { upperGapMm: { ...measured, value: 0.27 } }, takeNewer },
    )
    await user.click(screen.getByRole('button', { name: /^Upper gap/ }))
    await user.click(within(await screen.findByRole('dialog')).getByRole('button', { name: 'Take it' }))
    expect(takeNewer).toHaveBeenCalledTimes(1)
  })
})

test('a choice in the letter: each way says what it means, and the one picked is pressed', async () => {
  const { user, decisions } = letter(<ChoiceToken name="placement" />, {
    decisions: { ...DEFAULT_PLAN.decisions, placement: 'bed' },
  })
  await user.click(screen.getByRole('button', { name: /^Where stands may rest/ }))
  const card = within(await screen.findByRole('dialog'))
  expect(card.getAllByRole('button', { pressed: true })).toHaveLength(1)
  await user.click(card.getByRole('button', { pressed: false }))
  expect(decisions().placement).toBe('anywhere')
})

const aFewGrams = (changes: object = {}) => ({
  massG: 20,
  filaments: [{ name: 'Chalk PLA', g: 20, gramsLeft: 500 }],
  roles: { purge: { g: 3 } },
  ...changes,
})
const summary = (changes: object = {}): PlanSummary =>
  ({
    warnings: [],
    islands: [],
    contacts: [],
    swaps: 10,
    timeS: 3600,
    pTender: 0.8,
    estimate: aFewGrams(),
    ...changes,
  }) as unknown as PlanSummary
const words = (view: ReactNode) => show(view).container.textContent

describe('what another way would change', () => {
  const now = summary()
  test('only what counts is said, with its sign, and whether it is better', () => {
    const { container } = show(
      <ReleaseContext value={{ verdict: 'comes out in pieces', stands: [{ minutes: 7 } as StandCheck] }}>
        <Differences
          now={now}
          then={{
            ...summary({ estimate: aFewGrams({ massG: 18.5, roles: { purge: { g: 2 } } }) }),
            ...{
              timeS: 4200,
              swaps: 14,
              pTender: 0.9,
              release: { verdict: 'comes out whole', stands: [{ minutes: 4 } as StandCheck] },
            },
          }}
        />
      </ReleaseContext>,
    )
    const said = [...container.querySelectorAll('[data-better]')].map((node) => [
      node.textContent!.replace(/[\u202f\u00a0]/g, ' '),
      node.getAttribute('data-better'),
    ])
    expect(said).toEqual([
      ['−1.5 g', 'true'],
      ['+10 min', 'false'],
      ['+4 swaps', 'false'],
      ['+0.10 clean', 'true'],
      ['−1.0 g purged', 'true'],
      ['−3 min taking off', 'true'],
      ['come out whole', 'true'],
    ])
  })

  test('nothing, not yet known, and failing', () => {
    expect(words(<Differences now={now} then={summary({ timeS: 3610 })} />)).toContain(
      'changes nothing that counts',
    )
    expect(words(<Differences now={now} then={null} />)).toContain('working it out')
    expect(
      words(
        <Differences
          now={now}
          then={summary({ warnings: [{ code: 'TOO_TALL', severity: 'error', message: '' }] })}
        />,
      ),
    ).toContain('something would fail')
  })
})

test('a folded paragraph keeps what is not as usual, to be changed as before, and stays folded', async () => {
  const feet = (
    <Paragraph about="feet" decides={['footingLines', 'brimLines']}>
      Give them <NumberToken name="footingLines" /> and the part <NumberToken name="brimLines" />.
    </Paragraph>
  )
  const start = { decisions: { ...DEFAULT_PLAN.decisions, brimLines: 7 } }
  const { user, decisions, unmount } = letter(feet, start)
  const tokens = () =>
    screen.getAllByRole('button', { name: /: / }).map((one) => one.getAttribute('aria-label'))
  expect(tokens()).toHaveLength(2)
  await user.click(screen.getByRole('button', { name: 'Fold feet' }))
  expect(tokens()).toEqual([expect.stringMatching(/^Brim.*7/)])
  act(() => screen.getByRole('button', { name: /^Brim/ }).focus())
  await user.keyboard('{ArrowUp}')
  expect(decisions().brimLines).toBe(8)
  unmount()
  letter(feet)
  expect(screen.getByText('Feet as usual')).toBeTruthy()
  await user.click(screen.getByRole('button', { name: 'Unfold feet' }))
  expect(tokens()).toHaveLength(2)
})

describe('before it goes to the printer', () => {
  const items = () => screen.getAllByRole('listitem').map((item) => item.textContent)

  test('worst first, then the load, islands and spools; each with a word for those who do not see its shape', () => {
    const warnings = [
      { code: 'GAP_MISSED', severity: 'note', message: 'The gap is rounded.' },
      { code: 'TOO_TALL', severity: 'error', message: 'It is taller than the printer.' },
      { code: 'WELDED_PAIR', severity: 'warning', message: 'This pair welds.' },
    ]
    show(
      <Checks
        summary={summary({ warnings, contacts: [{}] })}
        partId="part"
        load={['Nozzle 2 holds Fog.']}
        onIsland={() => undefined}
      />,
    )
    expect(items()).toEqual([
      'Must be mended: It is taller than the printer.',
      'Mind: This pair welds.',
      'Note: The gap is rounded.',
      'Mind: Nozzle 2 holds Fog.',
      expect.stringMatching(/^In order: Chalk PLA: 500.g left, 20.*g needed$/),
    ])
  })

  test('what would help stands beside what is wrong, and is taken with one press', async () => {
    const warnings = [
      {
        code: 'UNSTEADY',
        severity: 'warning',
        message: 'It tips.',
        remedies: [{ words: '6 lines of footing', change: { decisions: { footingLines: 6 } } }],
      },
    ]
    const told = summary({ warnings, contacts: [{}] })
    const { user, decisions } = letter(
      <Checks summary={told} partId="part" load={[]} onIsland={() => undefined} />,
      {},
      { summary: told },
    )
    await user.click(screen.getByRole('button', { name: 'What would help: 6 lines of footing' }))
    await user.click(screen.getByRole('button', { name: 'Change this plan' }))
    expect(decisions().footingLines).toBe(6)
    // What became of it, and what there is to mind instead.
    const bends = { code: 'UNSTEADY', severity: 'warning', message: 'It bends.' }
    const weak = { code: 'WEAK_NECK', severity: 'warning', message: 'A neck is weak.' }
    const note = { code: 'RECUT', severity: 'note', message: 'Cut again it differs.' }
    expect(outcomeOf('UNSTEADY', told, summary({ warnings: [note] }))).toBe('That puts it right.')
    expect(outcomeOf('UNSTEADY', told, summary({ warnings: [bends, weak] }))).toBe(
      'Not all of it is put right: It bends. But then: A neck is weak.',
    )
  })

  test('islands: how many are held; each leads to its place', async () => {
    const onIsland = jest.fn()
    const islands = [
      { zMm: 4, held: true },
      { zMm: 8.25, held: false },
    ]
    const { user } = show(
      <Checks summary={summary({ islands })} partId="part" load={[]} onIsland={onIsland} />,
    )
    expect(items()[0]).toMatch(/^Must be mended: 1 of 2 islands held/)
    await user.click(screen.getByRole('button', { name: 'in the air 8.25' }))
    expect(onIsland).toHaveBeenCalledWith(1)
    cleanup()
    show(<Checks summary={summary({ islands: [islands[1]] })} partId="part" load={[]} onIsland={onIsland} />)
    expect(items()[0]).toMatch(/^Must be mended: The one island is not held/)
  })

  test('a part that needs nothing says so; spools nobody weighed are no comfort; one nearly used up is marked', () => {
    show(
      <Checks
        summary={summary({ estimate: { massG: 1, filaments: [{ name: 'Fog', g: 20, gramsLeft: null }] } })}
        partId="part"
        load={[]}
        onIsland={() => undefined}
      />,
    )
    expect(items()).toEqual([
      'In order: Nothing needs holding',
      'Note: 1 filament without a weighed spool; nobody knows whether there is enough.',
    ])
    document.body.replaceChildren()
    show(
      <Checks
        summary={summary({
          contacts: [{}],
          estimate: { massG: 1, filaments: [{ name: 'Fog', g: 20, gramsLeft: 22 }] },
        })}
        partId="part"
        load={[]}
        onIsland={() => undefined}
      />,
    )
    expect(items()).toEqual([expect.stringMatching(/^Note: Fog: 22.*g left/)])
  })
})

test('totals: what is not there is not shown', () => {
  const figures = {
    massG: 20,
    wasteG: 3,
    cost: 1.2,
    timeS: 3600,
    swapTimeS: 0,
    swaps: 0,
    pTender: null,
    errors: 0,
  }
  show(<Totals figures={figures} />)
  const terms = () => [...document.querySelectorAll('dt')].map((term) => term.textContent)
  expect(terms()).toEqual([expect.stringMatching(/^3.*g thrown away$/), 'money', 'printing', 'swaps'])
  document.body.replaceChildren()
  show(<Totals figures={{ ...figures, swaps: 12, swapTimeS: 600, pTender: 0.83 }} swapLayers={6} />)
  expect(terms().slice(2)).toEqual([
    expect.stringMatching(/swapping$/),
    'swaps on 6 heights',
    'comes off clean',
  ])
})
