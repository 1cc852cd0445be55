import { TenderError } from '@tender/core'
import { openMesh, write3mf, writeStl } from '@tender/core/mesh'
import { box, seeded, sphere } from '@tender/core/testing'

const FILES = 100_000

/** A hundred thousand damaged files: each is a mesh or a refusal, and none takes long. */
export function benchFiles(): void {
  const obj = (mesh: ReturnType<typeof box>) =>
    new TextEncoder().encode(
      `o ball\n${Array.from({ length: mesh.positionsMm.length / 3 }, (_, v) => `v ${[...mesh.positionsMm.subarray(3 * v, 3 * v + 3)].join(' ')}`).join('\n')}\n${Array.from({ length: mesh.corners.length / 3 }, (_, t) => `f ${[...mesh.corners.subarray(3 * t, 3 * t + 3)].map((v) => v + 1).join(' ')}`).join('\n')}\n`,
    )
  const seeds = [
    writeStl(sphere(5, 12)),
    obj(sphere(5, 12)),
    write3mf('Ball', [{ name: 'Ball', colour: '#a5a8b4', mesh: sphere(5, 12) }]),
    writeStl(box([1, 2, 3])),
    obj(box([1, 2, 3])),
  ]
  const random = seeded(7)
  let [read, refused, slowest] = [0, 0, 0]
  const start = performance.now()
  for (let n = 0; n < FILES; n++) {
    const seed = seeds[n % seeds.length]
    const from = Math.floor(random.next() * seed.length)
    const bytes = n % 3 === 0 ? seed.slice(0, from) : seed.slice()
    for (let k = 0; k < 1 + (n % 6) && bytes.length > 0; k++)
      bytes[Math.floor(random.next() * bytes.length)] = Math.floor(random.next() * 256)
    if (n % 7 === 0 && bytes.length > 8) bytes.copyWithin(Math.floor(random.next() * bytes.length), from)
    const began = performance.now()
    try {
      openMesh(bytes)
      read++
    } catch (error) {
      if (!(error instanceof TenderError)) throw error
      refused++
    }
    slowest = Math.max(slowest, performance.now() - began)
  }
  console.table([
    {
      files: FILES,
      read,
      refused,
      'seconds in all': Math.round((performance.now() - start) / 1000),
      'slowest ms': Math.round(slowest),
      'memory MB': Math.round(process.memoryUsage().rss / 1e6),
    },
  ])
  console.log('Every damaged file was read or refused in words.')
}
