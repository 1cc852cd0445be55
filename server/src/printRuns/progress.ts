import type { RunProgress } from '@tender/contract'

export const NOTHING_DONE: RunProgress = {
  commands: 0,
  doneBytes: 0,
  atMm: null,
  layer: null,
  layers: null,
  zMm: null,
  role: null,
  minutesLeft: null,
  tool: 0,
  filamentMm: {},
  extruder: { relative: true, atMm: 0 },
}

const LAYER = /^; layer (\d+) of (\d+), z ([\d.]+) mm, (\d+) min left/
const ROLE = /^; (\w+), [\d.]+ mm thick/
const WORDS = /\s([XYZE])(-?[\d.]+)/g

/** Follows a print line by line, as its printer does them. Goes on from wherever it was. */
export function createFollower(from: RunProgress) {
  // Hundreds of thousands of lines go through here: they change one thing, which is copied only for whoever
  // looks.
  const now = structuredClone(from) as {
    -readonly [K in keyof RunProgress]: RunProgress[K]
  }
  const at: [number, number, number] = now.atMm ? [...now.atMm] : [0, 0, 0]

  function moves(line: string): void {
    let e: number | undefined
    for (const [, letter, value] of line.matchAll(WORDS)) {
      const number = Number(value)
      if (letter === 'X') at[0] = number
      else if (letter === 'Y') at[1] = number
      else if (letter === 'Z') at[2] = number
      else e = number
    }
    now.atMm = at
    if (e === undefined) return
    const { extruder, filamentMm, tool } = now
    filamentMm[tool] = (filamentMm[tool] ?? 0) + (extruder.relative ? e : e - extruder.atMm)
    if (!extruder.relative) extruder.atMm = e
  }

  return {
    get progress(): RunProgress {
      return structuredClone(now)
    },
    get commands(): number {
      return now.commands
    },
    /** @param endByte where the line ends in its file */
    done(line: string, endByte: number, isCommand: boolean): void {
      now.doneBytes = endByte
      if (isCommand) now.commands++
      if (/^G[01]\s/.test(line)) return moves(line)
      if (line.startsWith(';')) {
        const layer = LAYER.exec(line)
        if (layer) [now.layer, now.layers, now.zMm, now.minutesLeft] = layer.slice(1).map(Number)
        now.role = ROLE.exec(line)?.[1] ?? now.role
      } else if (/^M82\b/.test(line)) now.extruder.relative = false
      else if (/^M83\b/.test(line)) now.extruder.relative = true
      else if (/^G92\b/.test(line))
        now.extruder.atMm = Number(/\sE(-?[\d.]+)/.exec(line)?.[1] ?? now.extruder.atMm)
      else if (/^T\d+/.test(line)) now.tool = Number(line.slice(1).split(/\s/)[0])
    },
  }
}
