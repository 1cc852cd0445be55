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

/** Follows a print line by line, as its printer does them. Goes on from wherever it was. */
export function createFollower(from: RunProgress) {
  let now = from
  const extrudes = (extruder: Partial<RunProgress['extruder']>) => {
    now = { ...now, extruder: { ...now.extruder, ...extruder } }
  }
  const value = (line: string, letter: string) => {
    const found = new RegExp(`\\s${letter}(-?[\\d.]+)`).exec(line)
    return found ? Number(found[1]) : undefined
  }
  return {
    get progress() {
      return now
    },
    /** @param endByte where the line ends in its file */
    done(line: string, endByte: number, isCommand: boolean): void {
      now = { ...now, doneBytes: endByte, commands: now.commands + (isCommand ? 1 : 0) }
      const layer = /^; layer (\d+) of (\d+), z ([\d.]+) mm, (\d+) min left/.exec(line)
      if (layer)
        now = {
          ...now,
          layer: Number(layer[1]),
          layers: Number(layer[2]),
          zMm: Number(layer[3]),
          minutesLeft: Number(layer[4]),
        }
      const role = /^; (\w+), [\d.]+ mm thick/.exec(line)
      if (role) now = { ...now, role: role[1] }
      if (/^G[01]\s/.test(line)) {
        const [x, y, z] = now.atMm ?? [0, 0, 0]
        now = { ...now, atMm: [value(line, 'X') ?? x, value(line, 'Y') ?? y, value(line, 'Z') ?? z] }
        const given = value(line, 'E')
        if (given !== undefined) {
          const { relative, atMm } = now.extruder
          const push = relative ? given : given - atMm
          if (!relative) extrudes({ atMm: given })
          const own = String(now.tool)
          now = { ...now, filamentMm: { ...now.filamentMm, [own]: (now.filamentMm[own] ?? 0) + push } }
        }
      } else if (/^M82\b/.test(line)) extrudes({ relative: false })
      else if (/^M83\b/.test(line)) extrudes({ relative: true })
      else if (/^G92\b/.test(line)) extrudes({ atMm: value(line, 'E') ?? now.extruder.atMm })
      else if (/^T\d+/.test(line)) now = { ...now, tool: Number(/\d+/.exec(line)![0]) }
    },
  }
}
