/** Numbers that come one by one into a flat array which grows as needed. */
export class FloatList {
  private held = new Float64Array(1024)
  length = 0

  push3(x: number, y: number, z: number): void {
    if (this.length + 3 > this.held.length)
      this.held = grown(this.held, new Float64Array(this.held.length * 2))
    this.held[this.length++] = x
    this.held[this.length++] = y
    this.held[this.length++] = z
  }

  get values(): Float64Array {
    return this.held.subarray(0, this.length)
  }
}

/** The same for indices. */
export class IndexList {
  private held = new Uint32Array(1024)
  length = 0

  push3(a: number, b: number, c: number): void {
    if (this.length + 3 > this.held.length)
      this.held = grown(this.held, new Uint32Array(this.held.length * 2))
    this.held[this.length++] = a
    this.held[this.length++] = b
    this.held[this.length++] = c
  }

  get values(): Uint32Array {
    return this.held.subarray(0, this.length)
  }
}

function grown<T extends Float64Array | Uint32Array>(from: T, into: T): T {
  into.set(from as never)
  return into
}
