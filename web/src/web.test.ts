import { describe, expect, test } from '@jest/globals'
import { FilamentInput } from '@tender/contract'
import { TenderError } from '@tender/core'
import { DECISION_RANGES, DEFAULT_DECISIONS } from '@tender/core/decide'
import { regionFromRings } from '@tender/core/polygon'
import { linesByWidth, linesPath, regionPath, spansPath } from './drawings/regionPath'
import {
  chance,
  counted,
  day,
  degrees,
  duration,
  gapMm,
  grams,
  mm,
  money,
  percent,
  range,
  signed,
  three,
} from './format/numbers'
import { CHOICES, NUMBERS } from './stations/plans/catalogue'
import { planCsv } from './stations/plans/planCsv'
import { DARK, LIGHT } from './theme/palette'
import { zodForm } from './ui/zodForm'
import { answer, unwrap, WorkError } from './workers/answer'
import { once } from './workers/once'

describe('numbers as people read them', () => {
  test('three significant digits, no zeros that were not asked for, a thin space before the unit', () => {
    expect([0.2, 12.345, 123.4, 1234.5, 0.00123456].map(three)).toEqual([
      '0.2',
      '12.3',
      '123',
      '1235',
      '0.00123',
    ])
    expect(mm(0.4)).toBe('0.4\u202fmm')
    expect([5.25, 412.4, 0.03, 0].map(grams)).toEqual([
      '5.3\u202fg',
      '412\u202fg',
      '<0.1\u202fg',
      '0.0\u202fg',
    ])
    expect([range(3.91, 4.12), range(81.6, 88.2)]).toEqual(['3.9 to 4.1', '82 to 88'])
    expect(gapMm(0.2)).toBe('0.20\u202fmm')
    expect([degrees(51.6), percent(0.125), chance(0.8649), money(1.6)]).toEqual([
      '52°',
      '13\u202f%',
      '0.86',
      '1.60',
    ])
  })

  test('durations, differences, counts and days', () => {
    expect([25 * 60, 59.6 * 60, 3600 * 4 + 600].map(duration)).toEqual([
      '25\u202fmin',
      '1\u202fh\u202f00',
      '4\u202fh\u202f10',
    ])
    expect([-0.8, 0.8, -0.03].map((g) => signed(g, grams))).toEqual([
      '−0.8\u202fg',
      '+0.8\u202fg',
      '0.0\u202fg',
    ])
    expect([counted(1, 'spool'), counted(3, 'spool'), counted(0, 'trial read', 'trials read')]).toEqual([
      '1 spool',
      '3 spools',
      '0 trials read',
    ])
    expect(day('2026-11-14')).toBe('14 Nov')
  })
})

describe('drawings', () => {
  test('a region becomes closed rings with y downwards', () => {
    expect(regionPath(regionFromRings([[0, 0, 2, 0, 2, 1]]))).toBe('M0 0L2 0L2 -1Z')
    expect(regionPath(regionFromRings([]))).toBe('')
    expect(linesPath(Float64Array.from([0, 0, 1.23456, 2]), Uint32Array.from([0, 2]))).toBe('M0 0L1.235 -2')
  })

  test('lines become a path for each width that they are laid with, to a tenth', () => {
    const paths = {
      xyMm: Float64Array.from([0, 0, 1, 0, 2, 0, 3, 0, 4, 0, 5, 0]),
      starts: Uint32Array.from([0, 2, 4, 6]),
      kinds: new Uint8Array(3),
      flow: Float32Array.from([1, 0.62, 1.04]),
    }
    expect(linesByWidth(paths)).toEqual([
      { widths: 1, d: 'M0 0L1 0M4 0L5 0' },
      { widths: 0.6, d: 'M2 0L3 0' },
    ])
  })

  test('equal spans on top of each other become one bar, others stay apart', () => {
    const spans = Float64Array.from([
      0, 10, 0, 0.2, 0, 10, 0.2, 0.4, 0, 10, 0.4, 0.6, 2, 8, 0.6, 0.8, 0, 10, 1, 1.2,
    ])
    const bars = spansPath(spans).split('Z').filter(Boolean)
    expect(bars).toHaveLength(3)
    expect(bars).toContain('M0 -0.6H10V0H0')
  })
})

test('every decision has a name, an explanation and a wording, and choices offer what the core takes', () => {
  for (const name of Object.keys(DECISION_RANGES) as (keyof typeof DECISION_RANGES)[]) {
    expect(NUMBERS[name].about.length).toBeGreaterThan(10)
    expect(NUMBERS[name].show(DEFAULT_DECISIONS[name])).toMatch(/\d|solid|no part/)
  }
  for (const [name, { options }] of Object.entries(CHOICES))
    expect((options as readonly { value: unknown }[]).map((option) => option.value)).toContain(
      DEFAULT_DECISIONS[name as keyof typeof CHOICES],
    )
})

test('both schemes have the same colours, and text can be read on every ground it stands on', () => {
  expect(Object.keys(DARK)).toEqual(Object.keys(LIGHT))
  const light = (hex: string) => {
    const [r, g, b] = [1, 3, 5]
      .map((at) => parseInt(hex.slice(at, at + 2), 16) / 255)
      .map((c) => (c <= 0.03928 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4))
    return 0.2126 * r + 0.7152 * g + 0.0722 * b
  }
  const contrast = (a: string, b: string) => {
    const [high, low] = [light(a), light(b)].sort((x, y) => y - x)
    return (high + 0.05) / (low + 0.05)
  }
  for (const palette of [LIGHT, DARK]) {
    for (const ground of [palette.paper, palette.sheet])
      for (const text of [palette.ink, palette.soft, palette.damson, palette.wine, palette.pine])
        expect(contrast(text, ground)).toBeGreaterThan(4.5)
    expect(contrast(palette.onDamson, palette.damson)).toBeGreaterThan(4.5)
    expect(contrast(palette.damson, palette.damsonWash)).toBeGreaterThan(4.5)
    // Roles are areas: they must stand out from the sheet and from each other.
    for (const role of [palette.part, palette.stand, palette.interface])
      expect(contrast(role, palette.sheet)).toBeGreaterThan(2)
  }
})

test('a form’s errors sit at their fields, nested ones too, in sentences', async () => {
  const bad = {
    name: '',
    family: 'PLA',
    colour: 'red',
    densityGcm3: 99,
    diameterMm: 1.75,
    pricePerKg: 20,
    nozzleC: 200,
    bedC: 60,
    spools: [{ label: '', gramsLeft: -1 }],
  }
  const { errors } = (await zodForm(FilamentInput)(bad as never, undefined, {} as never)) as {
    errors: Record<string, { message?: string } & Record<string, unknown>>
  }
  expect(errors.name.message).toBe('Must not be empty.')
  expect(errors.densityGcm3.message).toBe('Must be at most 5.')
  expect(errors.colour.message).toContain('six hexadecimal digits')
  expect(errors.spools).toMatchObject({ 0: { gramsLeft: { message: 'Must be at least 0.' } } })
  const good = await zodForm(FilamentInput)(
    { ...bad, name: ' Chalk ', colour: '#d8d3c8', densityGcm3: 1.24, spools: [] } as never,
    undefined,
    {} as never,
  )
  expect(good).toMatchObject({ errors: {}, values: { name: 'Chalk' } })
})

test('what is made once is made once; what failed is tried anew', async () => {
  let tries = 0
  const engine = once(async () => {
    if (++tries === 1) throw new Error('the server is away')
    return { tries }
  })
  const [a, b] = await Promise.allSettled([engine(), engine()])
  expect([a.status, b.status, tries]).toEqual(['rejected', 'rejected', 1])
  expect(await engine()).toEqual({ tries: 2 })
  expect(await engine()).toBe(await engine())
  expect(tries).toBe(2)
})

test('refusals cross the border of a worker with their code; anything else without its insides', async () => {
  await expect(unwrap(answer(() => 5))).resolves.toBe(5)
  const refused = unwrap(
    answer(() => {
      throw new TenderError('FILE_EMPTY', 'The file is empty: 0 bytes.')
    }),
  )
  await expect(refused).rejects.toEqual(new WorkError('FILE_EMPTY', 'The file is empty: 0 bytes.'))
  const silent = console.error
  console.error = () => undefined
  try {
    await expect(unwrap(answer(() => Promise.reject(new Error('secret'))))).rejects.toMatchObject({
      code: 'INTERNAL',
      message: expect.not.stringContaining('secret'),
    })
    await expect(
      unwrap(
        answer(() => {
          throw new RangeError('Array buffer allocation failed')
        }),
      ),
    ).rejects.toMatchObject({ message: expect.stringContaining('memory') })
  } finally {
    console.error = silent
  }
})

test('a plan’s numbers as rows: every row as long as the header, values quoted where they must be', () => {
  const summary = {
    part: {
      triangles: 12,
      volumeMm3: 1,
      watertight: true,
      sizeMm: [1, 1, 1],
      openEdges: 0,
      shells: 1,
      areaMm2: 6,
    },
    bridges: [],
    contacts: [
      {
        kind: 'flat',
        access: 'open',
        zMm: 10,
        topMm: 10,
        wantedMm2: 384,
        areaMm2: 375.21,
        gapMm: 0.2,
        achievedGapMm: 0.2,
        unheldMm2: {},
      },
    ],
    rests: [],
    recuts: [],
    purges: {
      tower: null,
      towerTrouble: null,
      towerMm3: 0,
      chuteMm3: 0,
      laidAnywayMm3: 0,
      leftovers: [],
    },
    supportHeightsMm: Float64Array.of(0.2),
    islands: [{ zMm: 8, areaMm2: 20, held: false }],
    estimate: {
      roles: { part: { mm3: 100, g: 0.124 } },
      filaments: [{ name: 'Chalk, "white"', mm3: 100, g: 0.124, m: 0.04, cost: 0.003 }],
      massG: 0.124,
      wasteG: 0,
      cost: 0.003,
    },
    warnings: [],
    pTender: null,
    layers: 1,
    heightMm: 1,
    swaps: 0,
    swapLayers: 0,
    timeS: 60,
    swapTimeS: 0,
  } as never
  const lines = planCsv(summary).split('\n')
  expect(lines).toHaveLength(6)
  expect(lines[5]).toBe('supportTop,,,,,,0.2,,,')
  expect(lines[1]).toBe('filament,"Chalk, ""white""",100,0.124,0.04,0.003,,,,')
  expect(lines[3]).toBe('contact,flat,,,,,10,375.21,0.2,0.2')
  expect(lines[4]).toContain('in the air')
})
