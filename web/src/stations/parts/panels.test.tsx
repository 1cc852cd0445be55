/** @jest-environment jsdom */
import { beforeEach, describe, expect, jest, test } from '@jest/globals'
import { PretendServer, show } from '../../testing/view'
import { screen, within } from '@testing-library/react'
import type { FoundPose, PoseSearch } from '@tender/contract'
import { UPRIGHT } from '@tender/core/mesh'
import type { Zone } from '@tender/core/overhang'
import { DEFAULT_PLAN } from '@tender/core/decide'
import type { HullFace } from '@tender/core/pose'
import { useState, type ReactNode } from 'react'
import type { Drawing } from '../../workers/partWork'
import { aNeedsReport, aPart, idOf } from '../../testing/samples'
import { LayPanel } from './LayPanel'
import { Told } from '../../workers/told'
import { NeedsPanel } from './NeedsPanel'
import { PartContext, type PartSetting } from './PartContext'
import { PoseStrip } from './PoseStrip'
import { ZonesPanel } from './ZonesPanel'
import { inputOf } from './usePartDraft'

const notBegun = () => new Told({ stage: 'slice' as const, share: 0, sinceMs: 0 })

const standing = {
  verdict: 'stands',
  footprintMm2: 200,
  leverMm: 5,
  tipDeg: 18,
  points: 4,
} as unknown as Drawing['standing']
const drawing = {
  sizeMm: [10, 20, 30],
  ownBox: { min: [0, 0, 0], max: [10, 20, 30] },
  standing,
} as unknown as Drawing

/** A part's setting whose draft, zones and tool are real; what the workers would find is given. */
function Setting({
  changes = {},
  children,
  told,
}: {
  changes?: Partial<PartSetting>
  children: ReactNode
  told: (setting: PartSetting) => void
}) {
  const [draft, setDraft] = useState(() => inputOf(aPart()))
  const [tool, setTool] = useState<PartSetting['tool']>({ kind: 'look' })
  const limits = {
    ready: true,
    lost: null,
    document: DEFAULT_PLAN,
    evidence: {},
    filament: null,
    filaments: [],
    choose: jest.fn(),
    wishes: {},
    wish: jest.fn(),
    forget: jest.fn(),
  }
  const setting = {
    part: aPart(),
    draft,
    change: (next: object) => setDraft((before) => ({ ...before, ...next })),
    undo: () => undefined,
    canUndo: false,
    error: null,
    limits,
    needs: {
      needs: aNeedsReport(),
      version: 1,
      error: null,
      working: false,
      progress: notBegun(),
    },
    drawing,
    meshKey: undefined,
    faces: [],
    tool,
    setTool,
    measured: [],
    relief: null,
    setRelief: () => undefined,
    zones: draft.zones as readonly Zone[],
    setZones: (zones: readonly Zone[]) =>
      setDraft((before) => ({ ...before, zones: zones as typeof before.zones })),
    ...changes,
  } as unknown as PartSetting
  told(setting)
  return <PartContext value={setting}>{children}</PartContext>
}

/** Shows a panel; `now` is the setting as it stands. */
function panel(children: ReactNode, changes: Partial<PartSetting> = {}) {
  let latest: PartSetting | null = null
  const view = show(
    <Setting changes={changes} told={(setting) => (latest = setting)}>
      {children}
    </Setting>,
  )
  return { ...view, now: () => latest! }
}

beforeEach(() => void new PretendServer(() => ({ body: null })))

describe('zones', () => {
  test('a new zone is numbered, opened, and the brush taken up; putting it down leaves it', async () => {
    const { user, now } = panel(<ZonesPanel />)
    expect(screen.getByText(/None yet/)).toBeTruthy()
    await user.click(screen.getByRole('button', { name: 'Brush a keep-off' }))
    await user.click(screen.getByRole('button', { name: 'Brush a keep-off' }))
    expect(now().zones.map(({ name, kind, limitDeg }) => [name, kind, limitDeg])).toEqual([
      ['Keep off 1', 'keepOff', 90],
      ['Keep off 2', 'keepOff', 90],
    ])
    expect(now().tool).toEqual({ kind: 'brush', zoneId: now().zones[1].id })
    expect(screen.getByRole('button', { name: /^Keep off 2/ }).getAttribute('aria-expanded')).toBe('true')
    await user.click(screen.getByRole('button', { name: 'Brush Keep off 2' }))
    expect(now().tool.kind).toBe('look')
    await user.click(screen.getByRole('button', { name: 'Remove Keep off 1' }))
    expect(now().zones.map(({ name }) => name)).toEqual(['Keep off 2'])
  })

  test('a box lies around the middle of the part, and its sides never pass each other', async () => {
    const { user, now } = panel(<ZonesPanel />)
    await user.click(screen.getByRole('button', { name: 'Box' }))
    const box = () => now().zones[0].shape as Extract<Zone['shape'], { kind: 'box' }>
    expect(box()).toEqual({ kind: 'box', minMm: [2.5, 5, 7.5], maxMm: [7.5, 15, 22.5] })
    const left = screen.getByRole('textbox', { name: 'left' })
    await user.clear(left)
    await user.type(left, '40{Tab}')
    expect(box().minMm[0]).toBeLessThan(box().maxMm[0])
    expect(box().minMm.slice(1)).toEqual([5, 7.5])
  })

  test('what a zone does can be changed, with the limit that goes with it; an empty name is not taken', async () => {
    const { user, now } = panel(<ZonesPanel />)
    await user.click(screen.getByRole('button', { name: 'Cylinder' }))
    expect(now().zones[0]).toMatchObject({
      kind: 'hold',
      limitDeg: 0,
      shape: { kind: 'cylinder', footMm: [5, 10, 7.5], radiusMm: 2.5, heightMm: 15 },
    })
    const fields = within(screen.getByRole('region', { name: 'Zones' }))
    await user.click(fields.getByRole('radio', { name: 'keep off' }))
    expect(now().zones[0]).toMatchObject({ kind: 'keepOff', limitDeg: 90 })
    await user.clear(screen.getByRole('textbox', { name: 'Name' }))
    expect(now().zones[0].name).toBe('Hold 1')
  })

  test('an island that a zone keeps in the air is told with the zone’s name', () => {
    const islands = [
      { areaMm2: 2, atMm: [0, 0, 4] as const, keptOffBy: 'Keep off 1' },
      { areaMm2: 2, atMm: [5, 0, 4] as const, keptOffBy: null },
    ]
    panel(<ZonesPanel />, {
      needs: {
        needs: aNeedsReport({ islands }),
        version: 1,
        error: null,
        working: false,
        progress: notBegun(),
      },
    })
    expect(screen.getByRole('alert').textContent).toMatch(
      /1 island starts in mid-air and is kept off by “Keep off 1”/,
    )
  })
})

describe('laying', () => {
  const side = (normal: [number, number, number], areaMm2: number, verdict: HullFace['verdict'] = 'stands') =>
    ({ normal, areaMm2, verdict, tipDeg: 20, outlineMm: [] }) as unknown as HullFace

  test('turning goes by the step picked, both ways, and back to how it was drawn', async () => {
    const { user, now } = panel(<LayPanel />)
    expect(screen.getByRole('button', { name: 'As drawn' }).hasAttribute('disabled')).toBe(true)
    await user.click(screen.getByRole('radio', { name: '45°' }))
    await user.click(screen.getByRole('radio', { name: 'upright' }))
    await user.click(screen.getByRole('button', { name: 'Turn 45° anticlockwise' }))
    expect(now().draft.pose.turn[2]).toBeCloseTo(Math.sin(Math.PI / 8), 9)
    await user.click(screen.getByRole('button', { name: 'Turn 45° clockwise' }))
    now().draft.pose.turn.forEach((value, i) => expect(value).toBeCloseTo(UPRIGHT.turn[i], 9))
    await user.click(screen.getByRole('button', { name: 'Turn 45° clockwise' }))
    await user.click(screen.getByRole('button', { name: 'As drawn' }))
    expect(now().draft.pose.turn).toEqual(UPRIGHT.turn)
  })

  test('sides that are alike are one choice; picking one puts it down', async () => {
    const faces = [
      side([0, 0, -1], 200),
      side([1, 0, 0], 600),
      side([-1, 0, 0], 600),
      side([0, 1, 0], 300, 'falls'),
    ]
    const { user, now } = panel(<LayPanel />, { faces })
    const list = within(screen.getByRole('region', { name: 'Sides to stand on' }))
    expect(list.getAllByRole('listitem')).toHaveLength(3)
    expect(list.getByRole('button', { name: /side 2, 600 mm², stands/ }).textContent).toContain('× 2')
    await user.click(list.getByRole('button', { name: /side 2/ }))
    // What looked along +x looks down now: a quarter turn about y.
    expect(Math.abs(now().draft.pose.turn[1])).toBeCloseTo(Math.SQRT1_2, 9)
    await user.click(screen.getByRole('button', { name: 'Put a face on the bed' }))
    expect(now().tool.kind).toBe('face')
  })

  test('before the part is measured nothing is claimed about it', () => {
    panel(<LayPanel />, { drawing: undefined })
    expect(screen.getByRole('region', { name: 'How it stands' }).textContent).toBe('Measuring ...')
  })
})

describe('what needs holding', () => {
  const patch = (lowestMm: number) => ({
    kind: 'flat' as const,
    access: 'closed' as const,
    areaMm2: 12,
    lowestMm,
    highestMm: lowestMm,
    atMm: [0, 0, lowestMm] as const,
  })

  test('places are listed with height and verdict; each leads to its layer; many are cut short and counted', async () => {
    const setAddress = jest.fn()
    const bridge = {
      layerIndex: 4,
      zMm: 0.8,
      spanMm: 12,
      widthMm: 4,
      areaMm2: 48,
      directionDeg: 0,
      free: false,
      atMm: [0, 0, 0.8] as const,
    }
    const needs = aNeedsReport({
      patches: Array.from({ length: 43 }, (_, i) => patch(i + 1)),
      bridges: [bridge],
      holdMm2: 43 * 12,
    })
    const { user } = panel(<NeedsPanel setAddress={setAddress} />, {
      needs: {
        needs,
        version: 1,
        error: null,
        working: false,
        progress: notBegun(),
      },
    })
    const patches = within(screen.getByRole('region', { name: 'Undersides: 43' }))
    expect(patches.getAllByRole('listitem')).toHaveLength(40)
    expect(patches.getByText('and 3 more')).toBeTruthy()
    expect(patches.getAllByText('flat, 12 mm², out of reach')).toHaveLength(40)
    expect(screen.getByRole('region', { name: 'Bridges: 1' }).textContent).toContain('is held')
    await user.click(patches.getAllByRole('button')[1])
    expect(setAddress).toHaveBeenCalledWith({ view: 'layer', z: '2.01' })
  })

  test('what could not be found out is said in place of the answer', () => {
    panel(<NeedsPanel setAddress={() => undefined} />, {
      needs: {
        needs: null,
        version: 0,
        error: new Error('40 mm in layers of 0.001 mm makes too many layers.'),
        working: false,
        progress: notBegun(),
      },
    })
    expect(screen.getByRole('region', { name: 'What needs holding' }).textContent).toContain(
      'too many layers',
    )
  })
})

describe('poses found', () => {
  const turnAt = (deg: number): FoundPose['judgement']['turn'] => [
    Math.sin((deg * Math.PI) / 360),
    0,
    0,
    Math.cos((deg * Math.PI) / 360),
  ]
  const pose = (deg: number, standG: number, timeS: number, heightMm: number): FoundPose =>
    ({
      judgement: {
        turn: turnAt(deg),
        supportMm3: standG * 800,
        airMm3: standG * 900,
        contactMm2: standG * 10,
        showMm2: 0,
        heightMm,
        contactLayers: 3,
        thinMm: 0,
        standing: { verdict: 'stands', footprintMm2: 100, leverMm: 4, tipDeg: 10 + deg / 9, points: 4 },
      },
      figures: {
        massG: 20 + standG,
        wasteG: standG,
        timeS,
        cost: 1,
        swapTimeS: 0,
        swaps: 0,
        pTender: null,
        errors: 0,
      },
      islands: 0,
      standG,
    }) as unknown as FoundPose
  const search = (poses: FoundPose[]): PoseSearch =>
    ({
      id: idOf(40),
      partId: idOf(70),
      state: 'done',
      input: { document: DEFAULT_PLAN },
      message: null,
      progress: 1,
      judged: 300,
      poses,
    }) as unknown as PoseSearch

  const strip = async (poses: FoundPose[]) => {
    new PretendServer(({ path }) =>
      path.endsWith('newest') ? { body: search(poses) } : { status: 404, body: null },
    )
    const view = panel(<PoseStrip />)
    if (poses.length > 0) await screen.findByRole('region', { name: 'Poses found' })
    return view
  }
  const masses = () =>
    screen.getAllByRole('listitem').map((item) => /^[\d.]+/.exec(item.querySelector('p')!.textContent!)![0])

  test('sorted by what is asked for; the pose the part lies in cannot be taken again, another is', async () => {
    const { user, now } = await strip([pose(0, 4, 3000, 30), pose(90, 2, 5000, 20), pose(180, 8, 2000, 40)])
    expect(masses()).toEqual(['2.0', '4.0', '8.0'])
    await user.click(screen.getByRole('radio', { name: 'time' }))
    expect(masses()).toEqual(['8.0', '4.0', '2.0'])
    expect(screen.getByRole('button', { name: 'Lies so' }).hasAttribute('disabled')).toBe(true)
    await user.click(within(screen.getAllByRole('listitem')[2]).getByRole('button', { name: 'Take it' }))
    now().draft.pose.turn.forEach((value, i) => expect(value).toBeCloseTo(turnAt(90)[i], 9))
    expect(within(screen.getAllByRole('listitem')[2]).getByRole('button', { name: 'Lies so' })).toBeTruthy()
  })

  test('two stand side by side; a third takes the place of the first', async () => {
    const { user } = await strip([pose(0, 4, 3000, 30), pose(90, 2, 5000, 20), pose(180, 8, 2000, 40)])
    const compare = screen.getAllByRole('button', { name: 'Compare' })
    await user.click(compare[0])
    expect(screen.queryByRole('table')).toBeNull()
    await user.click(compare[1])
    const row = () =>
      within(screen.getByRole('row', { name: /^Height/ }))
        .getAllByRole('cell')
        .map((cell) => cell.textContent)
    expect(row()).toEqual(['Height', '20 mm', '30 mm'])
    await user.click(compare[2])
    expect(row()).toEqual(['Height', '30 mm', '40 mm'])
    await user.click(compare[2])
    expect(screen.queryByRole('table')).toBeNull()
  })

  test('only what nothing else beats in everything is marked so', async () => {
    await strip([pose(0, 4, 3000, 30), pose(90, 2, 2000, 20), pose(180, 8, 4000, 40)])
    const marks = screen
      .getAllByRole('listitem')
      .map((item) => item.textContent!.includes('No other is better in everything'))
    expect(marks[0]).toBe(true)
    expect(marks.filter(Boolean).length).toBeLessThan(3)
  })

  test('without a search there is no strip', async () => {
    await strip([])
    expect(screen.queryByRole('region', { name: 'Poses found' })).toBeNull()
  })
})
