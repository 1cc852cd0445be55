import { describe, expect, test } from '@jest/globals'
import { readTrialCsv, writeTrialCsv, type CsvTrial } from '.'

describe('readings as CSV', () => {
  test('the header says what they are, in any order of columns, several trials a file', () => {
    const { trials, refused } = readTrialCsv(
      '\uFEFFgrade,trial,angleDeg,direction,layerHeightMm,lineWidthMm\r\n1,A,45,north,0.2,0.45\r\n5,B,60,"south, left",0.2,0.45\r\n\r\n2,A,50,,0.2,0.45\r\n',
    )
    expect(refused).toEqual([])
    expect(trials.map(({ trial, kind, readings }) => [trial, kind, readings.length])).toEqual([
      ['A', 'fan', 2],
      ['B', 'fan', 1],
    ])
    expect(trials[1].readings[0]).toMatchObject({ direction: 'south, left', grade: 5 })
    expect(trials[0].readings[1]).toMatchObject({ direction: 'any' })
  })

  test('semicolons and tabs part values too, there a number may have a comma; the header’s case is no matter', () => {
    const rows = [
      ['Trial', 'SPANMM', 'grade'],
      ['L', '12,5', '1'],
      ['L', '20', '4'],
    ]
    for (const between of [';', '\t']) {
      const { trials, refused } = readTrialCsv(rows.map((row) => row.join(between)).join('\r\n'))
      expect(refused).toEqual([])
      expect(trials).toEqual([
        {
          trial: 'L',
          kind: 'span',
          readings: [
            { spanMm: 12.5, grade: 1 },
            { spanMm: 20, grade: 4 },
          ],
        },
      ])
    }
    expect(readTrialCsv('trial,spanMm,grade\nL,"12,5",1').refused).toHaveLength(1)
  })

  test('bad rows are refused by line with a sentence, good ones kept', () => {
    const { trials, refused } = readTrialCsv(
      'trial,gapMm,spacingMm,release,finish,forceN\nA,0.1,0,1,2,3.5\nA,wide,0,1,2,\nA,0.2,0,6,2,\nA,0.2,0,1.5,2,\nA,-1,0,1,2,\nA,0.2,0,1\n,0.2,0,1,1,\nA,0.3,0,5,,',
    )
    expect(trials[0].readings).toHaveLength(2)
    expect(trials[0].readings[0]).toMatchObject({ forceN: 3.5, areaMm2: null })
    expect(trials[0].readings[1]).toMatchObject({ release: 5, finish: null })
    expect(refused.map((row) => row.line)).toEqual([3, 4, 5, 6, 7, 8])
    expect(refused[0].message).toBe('Line 3 has "wide" as gapMm, which is not a number.')
    expect(refused[2].message).toContain('whole numbers from 1 to 5')
    expect(refused[4].message).toContain('4 values where the header names 6')
  })

  test('a header of neither kind names what is missing', () => {
    expect(() => readTrialCsv('trial,gapMm,release\nA,0.1,1')).toThrow('"spacingMm", "finish"')
    expect(() => readTrialCsv('')).toThrow('empty')
  })

  test('every kind is known by its header, and what is written is read back the same', () => {
    const files: CsvTrial[][] = [
      [
        {
          trial: 'A',
          kind: 'fan',
          readings: [
            { angleDeg: 45, direction: 'south, left', layerHeightMm: 0.2, lineWidthMm: 0.45, grade: 2 },
          ],
        },
      ],
      [
        {
          trial: '=B',
          kind: 'span',
          readings: [
            { spanMm: 30, grade: 1 },
            { spanMm: 40.5, grade: 4 },
          ],
        },
        { trial: '-C', kind: 'span', readings: [{ spanMm: 5, grade: 1 }] },
      ],
      [
        {
          trial: 'D',
          kind: 'gap',
          readings: [{ gapMm: 0.1, spacingMm: 0.4, release: 2, finish: null, forceN: 3.2, areaMm2: 196 }],
        },
      ],
      [{ trial: 'E', kind: 'purge', readings: [{ volumeMm3: 80, swap: 'BA', grade: 5 }] }],
      [
        {
          trial: 'F',
          kind: 'offset',
          readings: [
            { shiftMm: -0.1, axis: 'x', grade: 1, comb: 'F:x' },
            { shiftMm: 0, axis: 'x', grade: null, comb: 'F:x' },
          ],
        },
      ],
    ]
    for (const trials of files) {
      const text = writeTrialCsv(trials)
      // No cell may start like a formula.
      for (const cell of text.split(/[\n,]/)) expect(cell).not.toMatch(/^[=@+]/)
      expect(readTrialCsv(text)).toEqual({ trials, refused: [] })
    }
    expect(writeTrialCsv([])).toBe('')
  })

  test('a swap or an axis of another name is refused by line', () => {
    expect(readTrialCsv('trial,volumeMm3,swap,grade\nA,50,ab,1\nA,50,AC,1').refused).toEqual([
      { line: 3, message: 'Line 3 has "AC" as swap; it must be AB or BA.' },
    ])
    expect(readTrialCsv('trial,shiftMm,axis,grade\nA,0.1,w,1').refused[0].message).toContain(
      'it must be x or y or z',
    )
  })
})
