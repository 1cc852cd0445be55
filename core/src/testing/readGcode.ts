/**
 * What a print would do, read back from its G-code for the tests. Volumes without what is drawn back and
 * pushed forward again.
 */
export function readGcode(text: string, diameterMm: number) {
  const area = (Math.PI * diameterMm * diameterMm) / 4
  let [x, y, z, e, speed] = [NaN, NaN, 0, 0, 0]
  let relative = true
  let highest = 0
  let mm3 = 0
  let printedMm = 0
  let moves = 0
  let swaps = 0
  let tool = ''
  const bounds = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity }
  const lowTravels: string[] = []
  const printSpeeds = new Set<number>()
  const heights = new Set<number>()
  for (const raw of text.split('\n')) {
    const [command, ...words] = raw.split(';')[0].trim().split(/\s+/)
    const value = (letter: string) => {
      const word = words.find((one) => one.startsWith(letter))
      return word === undefined ? undefined : Number(word.slice(1))
    }
    if (command === 'M82') relative = false
    if (command === 'M83') relative = true
    if (command === 'G92') e = value('E') ?? e
    if (/^T\d/.test(command)) {
      if (tool !== '' && tool !== command) swaps++
      tool = command
      ;[x, y] = [NaN, NaN]
    }
    if (command !== 'G0' && command !== 'G1') continue
    moves++
    const [nx, ny, nz] = [value('X') ?? x, value('Y') ?? y, value('Z') ?? z]
    speed = value('F') === undefined ? speed : value('F')! / 60
    const given = value('E')
    const push = given === undefined ? 0 : relative ? given : given - e
    if (given !== undefined && !relative) e = given
    const length = Math.hypot(nx - x, ny - y)
    if (Number.isFinite(nx)) {
      bounds.minX = Math.min(bounds.minX, nx)
      bounds.maxX = Math.max(bounds.maxX, nx)
      bounds.minY = Math.min(bounds.minY, ny)
      bounds.maxY = Math.max(bounds.maxY, ny)
    }
    if (push > 0 && length > 0) {
      mm3 += push * area
      printedMm += length
      printSpeeds.add(Math.round(speed))
      heights.add(Number(z.toFixed(3)))
      highest = Math.max(highest, z)
    } else if (length > 1.2 && z <= highest) lowTravels.push(raw)
    ;[x, y, z] = [nx, ny, nz]
  }
  return { mm3, mm3PerMm: mm3 / printedMm, moves, swaps, bounds, lowTravels, printSpeeds, heights }
}
