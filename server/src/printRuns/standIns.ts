import { createConnection } from 'node:net'
import type { StandIns } from '@tender/contract'
import { HttpProblem } from '../problem'

/** Ports on loopback of the stand-ins that run beside this server. */
export type DeviceAddresses = { readonly [D in keyof StandIns]?: number }

/** `printer=4801,look=4802`, as the start script says it. @throws Error */
export function deviceAddresses(text: string): DeviceAddresses {
  return Object.fromEntries(
    text
      .split(',')
      .filter((one) => one !== '')
      .map((one) => {
        const [, name, port] = /^(printer|look|gauge|scale)=(\d{1,5})$/.exec(one) ?? []
        if (name === undefined) throw new Error(`“${one}” is no stand-in`)
        return [name, Number(port)]
      }),
  ) as DeviceAddresses
}

const ANSWER_MS = 3000

/**
 * Asks a device several things over one line, a JSON object each, and gives its answers in order.
 * @throws HttpProblem OFFLINE when it does not answer, or answers nonsense
 */
export function askDevice(
  port: number,
  name: string,
  questions: readonly object[],
): Promise<Record<string, unknown>[]> {
  if (questions.length === 0) return Promise.resolve([])
  return new Promise((resolve, reject) => {
    const fail = (why: string) => {
      socket.destroy()
      reject(new HttpProblem('OFFLINE', `The stand-in ${name} ${why}. Nothing was written down.`))
    }
    const socket = createConnection({ host: '127.0.0.1', port }).setEncoding('utf8').setTimeout(ANSWER_MS)
    const answers: Record<string, unknown>[] = []
    let rest = ''
    socket.on('connect', () => socket.write(questions.map((one) => `${JSON.stringify(one)}\n`).join('')))
    socket.on('timeout', () => fail('does not answer'))
    socket.on('error', () => fail('does not answer'))
    socket.on('close', () => fail('hung up'))
    socket.on('data', (chunk: string) => {
      const lines = (rest + chunk).split('\n')
      rest = lines.pop()!
      for (const line of lines) {
        const answer = objectOf(line)
        if (answer?.ok !== true) return fail(`answers “${line.slice(0, 60)}”`)
        answers.push(answer)
      }
      if (answers.length < questions.length) return
      socket.removeAllListeners('close').destroy()
      resolve(answers)
    })
  })
}

function objectOf(line: string): Record<string, unknown> | null {
  try {
    const value: unknown = JSON.parse(line)
    return typeof value === 'object' && value !== null ? (value as Record<string, unknown>) : null
  } catch {
    return null
  }
}
