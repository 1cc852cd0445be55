// Stand-in devices as processes of their own, which end when we do.
import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { ROOT } from './paths.mjs'
import { SetupError } from './say.mjs'

export const STAND_INS = ['printer', 'look', 'gauge', 'scale']

/** @returns the port of each, and a way to stop them */
export async function startStandIns(ports = {}) {
  const children = []
  const startOne = (kind) =>
    new Promise((resolve, reject) => {
      const child = spawn(
        process.execPath,
        ['--import', 'tsx', join(ROOT, 'devices/src/main.ts'), kind, String(ports[kind] ?? 0)],
        { cwd: ROOT, stdio: ['pipe', 'pipe', 'inherit'] },
      )
      children.push(child)
      let text = ''
      child.stdout.on('data', (chunk) => {
        text += chunk
        const line = /listening (\d+)/.exec(text)
        if (line) resolve([kind, Number(line[1])])
      })
      child.once('exit', (code) =>
        reject(new SetupError(`The stand-in ${kind} ended at once (exit ${code}).`)),
      )
    })
  const stop = () => children.forEach((child) => child.kill())
  try {
    return { ports: Object.fromEntries(await Promise.all(STAND_INS.map(startOne))), stop }
  } catch (error) {
    stop()
    throw error
  }
}

/** As the server takes it. */
export const standInsText = (ports) =>
  Object.entries(ports)
    .map(([kind, port]) => `${kind}=${port}`)
    .join(',')
