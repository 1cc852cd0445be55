/** Runs row by row: of each row the number of its first run, and where each begins and ends. */
export type Runs = {
  readonly starts: Int32Array
  readonly count: number
  readonly from: Float64Array
  readonly to: Float64Array
}
export type RunList = ReturnType<typeof runList>

/** Runs, put together row by row. */
export function runList(rows: number) {
  const starts = new Int32Array(rows + 1)
  let [from, to] = [new Float64Array(1 << 12), new Float64Array(1 << 12)]
  let [row, count] = [0, 0]
  const makeRoom = (more: number) => {
    if (count + more <= from.length) return
    ;[from, to] = [from, to].map((all) => {
      const larger = new Float64Array(2 * (all.length + more))
      larger.set(all)
      return larger
    })
  }
  return {
    all: (): Runs => ({ starts, count, from, to }),
    /** @param ends where its runs begin and end by turns */
    putRow(ends: readonly number[]): void {
      makeRoom(ends.length / 2)
      for (let n = 0; n < ends.length; n += 2, count++) [from[count], to[count]] = [ends[n], ends[n + 1]]
      starts[++row] = count
    },
    /** The next row is as one of others, or of these. */
    copyRow(others: Runs, r: number): void {
      const [first, last] = [others.starts[r], others.starts[r + 1]]
      makeRoom(last - first)
      for (let n = first; n < last; n++, count++) [from[count], to[count]] = [others.from[n], others.to[n]]
      starts[++row] = count
    },
  }
}

/** A row that is blocked piece by piece: where what is left of it begins and ends by turns, rising. */
export function freeRow() {
  const ends: number[] = []
  return {
    ends,
    fill(own: readonly number[]): void {
      ends.splice(0, ends.length, ...own)
    },
    block(lowMm: number, highMm: number): void {
      let n = 0
      while (n < ends.length && ends[n + 1] <= lowMm) n += 2
      if (n === ends.length || ends[n] >= highMm) return
      // The first one that is met keeps what lies before, the last one what lies behind.
      let end = n
      while (end < ends.length && ends[end] < highMm) end += 2
      const [first, last] = [ends[n], ends[end - 1]]
      if (first < lowMm && last > highMm) ends.splice(n, end - n, first, lowMm, highMm, last)
      else if (first < lowMm) ends.splice(n, end - n, first, lowMm)
      else if (last > highMm) ends.splice(n, end - n, highMm, last)
      else ends.splice(n, end - n)
    },
  }
}
