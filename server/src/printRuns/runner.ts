import type { RunProgress, RunState } from '@tender/contract'
import { fileLines, type FileLine } from './fileLines'
import { numbered, openPrinterLine, type PrinterLine, type Said } from './printerLine'
import { createFollower } from './progress'

export type RunnerOptions = {
  readonly path: string
  readonly address: { readonly host: string; readonly port: number }
  /** Lines on their way at once; a real printer gets one after the other. */
  readonly window: number
  readonly from: RunProgress
  /** Waits until it is told to go on, for the reason given. */
  readonly paused: string | null | false
  /** How many times quicker than a printer a stand-in goes; null for a printer. */
  readonly standInSpeed: number | null
  /** Silence from here on is a fault. */
  readonly patienceMs: number
  /** Told whenever state or progress has changed; progress not more often than it can be used. */
  readonly tell: (
    state: RunState,
    message: string | null,
    progress: RunProgress,
    temperatures: string | null,
  ) => void
}

export type Runner = {
  readonly state: RunState
  readonly progress: RunProgress
  pause(): void
  resume(): void
  giveUp(): void
  order(line: string): boolean
  /** Leaves the print as it is, for whoever goes on with it later. */
  leave(): void
}

type Sent = { readonly number: number; readonly line: FileLine; readonly before: readonly FileLine[] }

const TELL_MS = 250
const ASK_MS = 2000
const AGAIN_MS = [500, 1000, 2000, 4000, 8000]
/** So many lines without sense, and none with, are no printer's. */
const NONSENSE = 20

/**
 * Sends a file to a printer line by line and keeps count of what it has done. A lost line is sent again, a
 * lost connection opened again; a fault stops it until somebody says to go on.
 */
export function createRunner(options: RunnerOptions): Runner {
  const { path, address, tell, patienceMs } = options
  const follower = createFollower(options.from)
  let state: RunState = options.paused === false ? 'printing' : 'paused'
  let message: string | null = options.paused === false ? null : options.paused
  let temperatures: string | null = null
  let line: PrinterLine | null = null
  const lines = fileLines(path, options.from.doneBytes)
  let atEnd = false
  const sent: Sent[] = []
  /** Comments read, which wait for the command behind them. */
  let before: FileLine[] = []
  let number = options.from.commands
  let heardMs = Date.now()
  let askedTwice = false
  let nonsense = 0
  let tries = 0
  let pumping = false
  let over = false
  let toldMs = 0

  const say = (next: RunState, why: string | null = null) => {
    state = next
    message = why
    tell(state, message, follower.progress, temperatures)
  }
  const isOver = () => over

  const watch = setInterval(
    () => {
      if (state !== 'printing' || !line || sent.length === 0 || Date.now() - heardMs < patienceMs) return
      heardMs = Date.now()
      if (!askedTwice) {
        // A line may have got lost on its way.
        askedTwice = true
        sendAgain()
      } else say('fault', `The printer has not answered for ${Math.round((2 * patienceMs) / 1000)} seconds.`)
    },
    Math.min(500, patienceMs / 3),
  )
  const asks = setInterval(() => line?.write('M105'), ASK_MS)
  void connect()

  async function connect(): Promise<void> {
    if (over) return
    try {
      const opened = await openPrinterLine(address, { said: hear, cut: lose })
      if (isOver()) return opened.close()
      line = opened
    } catch (error) {
      return lose((error as Error).message)
    }
    tries = 0
    heardMs = Date.now()
    // A new print begins to count anew; one that goes on keeps its numbers, and what was done is not done
    // twice.
    const isNew = follower.commands === 0 && sent.length === 0
    if (options.standInSpeed !== null) {
      if (isNew) line.write('!new')
      line.write(`!speed ${options.standInSpeed}`)
    }
    if (isNew) line.write('M110 N0')
    if (state === 'lost') say('printing')
    line.write('M105')
    sendAgain()
    void pump()
  }

  function lose(why: string): void {
    line = null
    if (over) return
    if (state === 'printing' || state === 'lost') say('lost', why)
    setTimeout(() => void connect(), AGAIN_MS[Math.min(tries++, AGAIN_MS.length - 1)]).unref()
  }

  function sendAgain(from = 0): void {
    for (const one of sent) if (one.number >= from) line?.write(numbered(one.number, one.line.text))
  }

  async function pump(): Promise<void> {
    if (pumping) return
    pumping = true
    const fresh: string[] = []
    try {
      while (line && state === 'printing' && sent.length < options.window && !atEnd) {
        const { value, done } = await lines.next()
        if (done) {
          atEnd = true
          break
        }
        if (value.text === '' || value.text.startsWith(';')) {
          before.push(value)
          continue
        }
        const one = { number: ++number, line: value, before }
        before = []
        sent.push(one)
        fresh.push(numbered(one.number, value.text.split(';')[0].trim()))
      }
      if (fresh.length > 0) line?.write(fresh.join('\n'))
      if (atEnd && sent.length === 0 && !over) {
        for (const comment of before) follower.done(comment.text, comment.endByte, false)
        finish('done')
      }
    } catch (error) {
      say('fault', (error as Error).message)
    } finally {
      pumping = false
    }
  }

  function hear(said: Said): void {
    // A printer that says how warm it is may have lost a line all the same.
    if (said.kind !== 'temperatures' || !said.asked) heardMs = Date.now()
    if (said.kind !== 'nonsense') nonsense = 0
    switch (said.kind) {
      case 'temperatures':
        temperatures = said.text
        tell(state, message, follower.progress, temperatures)
        return
      case 'ok':
        askedTwice = false
        return done(said.number)
      case 'resend': {
        const first = sent[0]?.number ?? number + 1
        if (said.number < first)
          say('fault', 'The printer has forgotten this print: it was switched off, or has begun another one.')
        else if (state === 'printing') sendAgain(said.number)
        return
      }
      case 'fault':
        if (state === 'printing') say('fault', sentence(said.sentence))
        return
      case 'nonsense':
        if (++nonsense >= NONSENSE && state === 'printing')
          say('fault', `What answers there is no printer: it says “${said.text}”.`)
    }
  }

  function done(upTo: number | null): void {
    const last = upTo ?? sent[0]?.number ?? 0
    let moved = false
    while (sent.length > 0 && sent[0].number <= last) {
      const { line: own, before } = sent.shift()!
      for (const comment of before) follower.done(comment.text, comment.endByte, false)
      follower.done(own.text, own.endByte, true)
      moved = true
    }
    if (!moved) return
    if (Date.now() - toldMs > TELL_MS) {
      toldMs = Date.now()
      tell(state, message, follower.progress, temperatures)
    }
    void pump()
  }

  function finish(how: 'done' | 'given up'): void {
    over = true
    clearInterval(watch)
    clearInterval(asks)
    say(how)
    line?.close()
    void lines.return(undefined)
  }

  return {
    get state() {
      return state
    },
    get progress() {
      return follower.progress
    },
    pause: () => state === 'printing' && say('paused'),
    resume() {
      if (state !== 'paused' && state !== 'fault') return
      heardMs = Date.now()
      askedTwice = false
      nonsense = 0
      const again = state === 'fault'
      say(line ? 'printing' : 'lost')
      if (again) sendAgain()
      void pump()
    },
    giveUp() {
      if (over) return
      // Nobody watches it any more: it must not stay hot.
      for (const command of ['M104 T0 S0', 'M104 T1 S0', 'M140 S0']) line?.write(command)
      finish('given up')
    },
    order(text) {
      if (!line) return false
      line.write(text)
      return true
    },
    leave() {
      over = true
      clearInterval(watch)
      clearInterval(asks)
      tell(state, message, follower.progress, temperatures)
      line?.close()
      void lines.return(undefined)
    },
  }

  function sentence(text: string): string {
    return `${text[0].toUpperCase()}${text.slice(1)}${/[.!?]$/.test(text) ? '' : '.'}`
  }
}
