/** What can go wrong with a stand-in printer on demand. */
export const FAULTS = ['runs out', 'jams', 'loses a line', 'hangs up'] as const
export type Fault = (typeof FAULTS)[number]

/** What the machine says to a line: how long it takes in seconds of a real printer, or what is wrong. */
export type Answer =
  | { readonly kind: 'ok'; readonly text: string; readonly seconds: number }
  | { readonly kind: 'error'; readonly text: string }
  | { readonly kind: 'resend'; readonly text: string }
  | { readonly kind: 'silent' }
  | { readonly kind: 'hang up' }

export type Machine = {
  take(line: string): Answer
  /** The next move goes wrong in this way, once. */
  fail(fault: Fault): void
  readonly pushedMm: ReadonlyMap<number, number>
}

const COLD_C = 170
const TRAVEL_MM_S = 100
/** Degrees a second while something heats. */
const HEATS_C_S = 3

/**
 * A stand-in printer without its clock: it takes numbered G-code lines, refuses what a printer must not do,
 * and says how long each takes. A line that it has done already is not done again.
 */
export function createMachine(bedMm: readonly [number, number, number] = [300, 300, 300]): Machine {
  const nozzles = new Map<number, number>()
  const pushedMm = new Map<number, number>()
  let bedC = 20
  let tool = 0
  let at: [number, number, number] = [0, 0, 0]
  let e = 0
  let speed = TRAVEL_MM_S
  let [absolute, absoluteE] = [true, true]
  let last = 0
  let failing: Fault | null = null

  const ok = (seconds = 0, text = 'ok'): Answer => ({ kind: 'ok', text, seconds })
  const error = (text: string): Answer => ({ kind: 'error', text: `error: ${text}` })

  function take(raw: string): Answer {
    const starred = /^(.*)\*(\d+)\s*$/.exec(raw)
    const body = starred ? starred[1] : raw
    if (starred && Number(starred[2]) !== checksum(body))
      return { kind: 'resend', text: `resend: ${last + 1}` }
    const numbered = /^N(\d+)\s+(.*)$/.exec(body.trim())
    const command = (numbered ? numbered[2] : body).split(';')[0].trim()
    if (/^M110\b/.test(command)) {
      last = Number(/N(\d+)/.exec(command.slice(4))?.[1] ?? numbered?.[1] ?? 0)
      return ok(0, `ok N${last}`)
    }
    if (!numbered) return does(command)
    const number = Number(numbered[1])
    if (number <= last) return ok(0, `ok N${number}`)
    if (number !== last + 1) return { kind: 'resend', text: `resend: ${last + 1}` }
    const answer = does(command)
    if (answer.kind !== 'ok') return answer
    last = number
    return { ...answer, text: `ok N${number}` }
  }

  function does(command: string): Answer {
    const [word = '', ...words] = command.toUpperCase().split(/\s+/)
    const value = (letter: string) => {
      const found = words.find((one) => one.startsWith(letter))
      return found === undefined ? undefined : Number(found.slice(1))
    }
    if (words.some((one) => one.length > 1 && !Number.isFinite(Number(one.slice(1)))))
      return error(`“${command.slice(0, 60)}” has something in it that is no number`)
    switch (word) {
      case '':
        return ok()
      case 'G0':
      case 'G1':
        return moves(value)
      case 'G28':
        at = [0, 0, 0]
        return ok(8)
      case 'G90':
        absolute = absoluteE = true
        return ok()
      case 'G91':
        absolute = absoluteE = false
        return ok()
      case 'M82':
        absoluteE = true
        return ok()
      case 'M83':
        absoluteE = false
        return ok()
      case 'G92':
        e = value('E') ?? e
        at = [value('X') ?? at[0], value('Y') ?? at[1], value('Z') ?? at[2]]
        return ok()
      case 'G4':
        return ok((value('P') ?? 0) / 1000 + (value('S') ?? 0))
      case 'M104':
      case 'M109':
        return heats(value('T') ?? tool, value('S') ?? 0, word === 'M109')
      case 'M140':
      case 'M190': {
        const from = bedC
        bedC = value('S') ?? 0
        return ok(word === 'M190' ? Math.max(0, bedC - from) / HEATS_C_S : 0)
      }
      case 'M105':
        return ok(
          0,
          `ok ${[...nozzles].map(([number, c]) => `T${number}:${c.toFixed(1)} /${c.toFixed(1)}`).join(' ')} B:${bedC.toFixed(1)} /${bedC.toFixed(1)}`,
        )
      case 'M114':
        return ok(0, `ok X:${at[0].toFixed(3)} Y:${at[1].toFixed(3)} Z:${at[2].toFixed(3)} E:${e.toFixed(5)}`)
      default: {
        const chosen = /^T(\d+)$/.exec(word)
        if (chosen) {
          tool = Number(chosen[1])
          return ok(2)
        }
        // Fans, motors, swaps of its own: nothing of it moves here.
        return /^[GM]\d+$/.test(word) ? ok() : error(`“${command.slice(0, 60)}” is no command`)
      }
    }
  }

  function heats(number: number, c: number, waits: boolean): Answer {
    const from = nozzles.get(number) ?? 20
    nozzles.set(number, c)
    return ok(waits ? Math.max(0, c - from) / HEATS_C_S : 0)
  }

  function moves(value: (letter: string) => number | undefined): Answer {
    const to = (['X', 'Y', 'Z'] as const).map((axis, i) => {
      const given = value(axis)
      return given === undefined ? at[i] : absolute ? given : at[i] + given
    }) as [number, number, number]
    const given = value('E')
    const push = given === undefined ? 0 : absoluteE ? given - e : given
    if (to.some((mm, i) => mm < -1e-6 || mm > bedMm[i] + 1e-6))
      return error(`a move to ${to.map((mm) => mm.toFixed(1)).join(', ')} mm leaves the printer`)
    if (push > 0 && (nozzles.get(tool) ?? 20) < COLD_C) return error(`nozzle ${tool} is cold`)
    if (failing) {
      const fault = failing
      failing = null
      if (fault === 'loses a line') return { kind: 'silent' }
      if (fault === 'hangs up') return { kind: 'hang up' }
      return error(
        fault === 'jams' ? `nozzle ${tool} is jammed` : `the filament of nozzle ${tool} has run out`,
      )
    }
    speed = value('F') === undefined ? speed : value('F')! / 60
    const away = Math.hypot(to[0] - at[0], to[1] - at[1], to[2] - at[2]) || Math.abs(push)
    at = to
    e += push
    pushedMm.set(tool, (pushedMm.get(tool) ?? 0) + push)
    return ok(away / Math.max(1, speed))
  }

  return { take, fail: (fault) => void (failing = fault), pushedMm }
}

/**
 * All bytes of a line before its star, one over the other. Source: the usual checksum of numbered G-code
 * lines.
 */
export function checksum(text: string): number {
  let sum = 0
  for (const byte of Buffer.from(text)) sum ^= byte
  return sum
}
