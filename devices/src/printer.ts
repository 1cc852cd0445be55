import type { Socket } from 'node:net'
import { serveLines } from './lines'
import { createMachine, FAULTS, type Fault } from './machine'

/** Answers that are due within this are given at once; a timer would come later anyway. */
const AT_ONCE_MS = 5

/**
 * A stand-in printer: numbered G-code lines, one answer each, given when the line would be done on a printer
 * so many times as quick. Lines that begin with `!` are orders to the stand-in itself: `!speed N`, `!fail
 * runs out | jams | loses a line | hangs up`, `!new`.
 */
export async function servePrinter(port: number, speed: number) {
  let machine = createMachine()
  let times = speed
  /** When all that was taken so far is done, in ms of `performance.now`. */
  let due = 0
  const served = await serveLines(port, (write, socket) => {
    write('// stand-in printer')
    const waiting: { at: number; text: string }[] = []
    let timer: NodeJS.Timeout | null = null
    const give = () => {
      timer = null
      const now = performance.now()
      const due: string[] = []
      while (waiting.length > 0 && waiting[0].at <= now + AT_ONCE_MS) due.push(waiting.shift()!.text)
      if (due.length > 0) write(due.join('\n'))
      if (waiting.length > 0) timer = setTimeout(give, waiting[0].at - now)
    }
    const later = (text: string, at: number) => {
      waiting.push({ at, text })
      timer ??= setImmediate(give) as unknown as NodeJS.Timeout
    }
    return {
      line(text) {
        if (text.startsWith('!')) return write(ordered(text.slice(1).trim()))
        const answer = machine.take(text)
        if (answer.kind === 'silent') return
        if (answer.kind === 'hang up') return hangUp(socket)
        const now = performance.now()
        due = Math.max(due, now)
        if (answer.kind === 'ok') due += (answer.seconds * 1000) / times
        // Questions out of turn are answered at once.
        if (/^ok [TXB]/.test(answer.text)) write(answer.text)
        else later(answer.text, due)
      },
      closed: () => timer && clearTimeout(timer),
    }
  })

  return { ...served, pushedMm: () => machine.pushedMm }

  function ordered(order: string): string {
    const [, word, rest] = /^(\S*)\s*(.*)$/.exec(order)!
    if (word === 'speed' && Number(rest) > 0) {
      times = Number(rest)
      return '// speed'
    }
    if (word === 'fail' && (FAULTS as readonly string[]).includes(rest)) {
      machine.fail(rest as Fault)
      return '// fails'
    }
    if (word === 'new') {
      machine = createMachine()
      due = 0
      return '// new'
    }
    return '// unknown order'
  }
}

const hangUp = (socket: Socket) => void socket.destroy()
