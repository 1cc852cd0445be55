import { createConnection } from 'node:net'
import { describe, expect, test } from '@jest/globals'
import { checksum, createMachine } from './machine'
import { servePrinter } from './printer'
import { answerLine, answerTo } from './readers'
import { truthOf } from './truth'

const numbered = (n: number, command: string) => `N${n} ${command}*${checksum(`N${n} ${command}`)}`

describe('a stand-in printer', () => {
  test('does a numbered line once, asks for what is missing or broken, and refuses what a printer must not do', () => {
    const machine = createMachine()
    const say = (line: string) => machine.take(line)
    expect(say(numbered(1, 'G1 X10 Y0 E1 F600'))).toMatchObject({
      kind: 'error',
      text: 'error: nozzle 0 is cold',
    })
    expect(say(numbered(1, 'M109 T0 S215'))).toMatchObject({ kind: 'ok', text: 'ok N1' })
    expect(say(numbered(3, 'G1 X10'))).toEqual({ kind: 'resend', text: 'resend: 2' })
    expect(say(`N2 G1 X10*99`)).toEqual({ kind: 'resend', text: 'resend: 2' })
    // 10 mm at 10 mm/s take a second.
    expect(say(numbered(2, 'G1 X10 E1 F600'))).toEqual({ kind: 'ok', text: 'ok N2', seconds: 1 })
    expect(say(numbered(2, 'G1 X10 E1 F600'))).toMatchObject({ kind: 'ok', seconds: 0 })
    expect(machine.pushedMm.get(0)).toBe(1)
    expect(say(numbered(3, 'G1 X999'))).toMatchObject({
      kind: 'error',
      text: expect.stringContaining('999.0'),
    })
    expect(say(numbered(3, 'hello'))).toMatchObject({ kind: 'error' })
    expect(say('M105')).toMatchObject({ text: 'ok T0:215.0 /215.0 B:20.0 /20.0' })
    machine.fail('runs out')
    expect(say(numbered(3, 'G1 X12'))).toMatchObject({
      kind: 'error',
      text: expect.stringContaining('run out'),
    })
    expect(say(numbered(3, 'G1 X12'))).toMatchObject({ kind: 'ok', text: 'ok N3' })
  })

  test('answers over a socket when the line would be done, and hangs up on a line without end', async () => {
    const { port, server } = await servePrinter(0, 10)
    const socket = createConnection(port, '127.0.0.1').setEncoding('utf8')
    const told: string[] = []
    socket.on('data', (chunk) => told.push(...String(chunk).trim().split('\n')))
    const from = performance.now()
    socket.write(`${numbered(1, 'G1 X10 F600')}\n`)
    while (!told.includes('ok N1')) await new Promise((resolve) => setTimeout(resolve, 5))
    // A second, ten times as quick.
    expect(performance.now() - from).toBeGreaterThan(80)
    const closed = new Promise((resolve) => socket.once('close', resolve))
    socket.write('x'.repeat(10_000))
    await closed
    server.close()
  })
})

describe('stand-ins that look, pull and weigh', () => {
  test('hide one truth for each pairing, scattered around it', () => {
    const truth = truthOf('Chalk PLA', 'Moss PETG')
    expect(truthOf('Chalk PLA', 'Moss PETG')).toEqual(truth)
    expect(truthOf('Chalk PLA', 'Slate PLA').letsGoMm).toBeGreaterThan(truth.letsGoMm)
    const ask = (gapMm: number) => {
      const seen = Array.from({ length: 200 }, () =>
        answerTo({ ask: 'gap', part: 'Chalk PLA', support: 'Moss PETG', gapMm }, Math.random),
      )
      const share = (of: 'release' | 'finish', most: number) =>
        seen.filter((one) => one[of] <= most).length / seen.length
      return { release: share('release', 2), finish: share('finish', 3) }
    }
    const middle = ask((truth.letsGoMm + truth.looksWellMm) / 2)
    expect(Math.min(middle.release, middle.finish)).toBeGreaterThan(0.9)
    expect(ask(truth.looksWellMm + 0.1).finish).toBeLessThan(0.05)
    const { release } = ask(truth.letsGoMm)
    expect(release).toBeGreaterThan(0.3)
    expect(release).toBeLessThan(0.7)
  })

  test('say that they are simulated, and say no to nonsense in one line', () => {
    const said = (line: string) => JSON.parse(answerLine(line, 'gauge', () => 0.5)) as Record<string, unknown>
    expect(said('{"ask":"pull","part":"A","support":"B","gapMm":0,"areaMm2":100}')).toMatchObject({
      ok: true,
      simulated: true,
      forceN: expect.any(Number),
    })
    expect(said('what?')).toEqual({ ok: false, why: 'This line is no JSON.' })
    expect(said('{"ask":"weigh","part":"A","partG":1,"wasteG":1}')).toMatchObject({ ok: false })
  })
})
