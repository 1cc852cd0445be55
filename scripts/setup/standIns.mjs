// Stand-in devices as processes of their own, which end when we do.
import { spawn } from 'node:child_process'
import { ROOT } from './paths.mjs'
import { freePort } from './ports.mjs'
import { program } from './programs.mjs'
import { SetupError } from './say.mjs'

const STAND_INS = ['printer', 'look', 'gauge', 'scale']

/** Ports that nobody listens on yet. */
export async function standInPorts() {
  const ports = {}
  for (const kind of STAND_INS) ports[kind] = await freePort(0)
  return ports
}

/**
 * Starts a stand-in on each of some ports.
 * @returns a promise of their all listening, and a way to stop them
 */
export function startStandIns(ports) {
  const children = []
  const startOne = (main, kind, port) =>
    new Promise((resolve, reject) => {
      const child = spawn(process.execPath, [main, kind, String(port)], {
        cwd: ROOT,
        stdio: ['pipe', 'pipe', 'inherit'],
      })
      children.push(child)
      child.stdout.on('data', (chunk) => /listening/.test(chunk) && resolve())
      child.once('exit', (code) =>
        reject(new SetupError(`The stand-in ${kind} ended at once (exit ${code}).`)),
      )
    })
  const startAll = async () => {
    const main = await program('devices')
    await Promise.all(Object.entries(ports).map(([kind, port]) => startOne(main, kind, port)))
  }
  return {
    ready: startAll(),
    stop: () => children.forEach((child) => child.kill()),
  }
}

/** As the server takes it. */
export const standInsText = (ports) =>
  Object.entries(ports)
    .map(([kind, port]) => `${kind}=${port}`)
    .join(',')
