import type { Request, RequestHandler } from 'express'
import { HttpProblem } from '../problem'

const LOOPBACK = new Set(['127.0.0.1', 'localhost', '[::1]'])
const READS = new Set(['GET', 'HEAD', 'OPTIONS'])

/** The name in a Host header or the host of an origin, without its port; null for what is neither. */
function nameOf(hostOrOrigin: string): string | null {
  try {
    return new URL(hostOrOrigin.includes('//') ? hostOrOrigin : `http://${hostOrOrigin}`).hostname
  } catch {
    return null
  }
}

/**
 * Refuses requests under a name that is not ours: a page elsewhere could otherwise reach the workshop through
 * a name that it had pointed here. What changes something must not come from a page of another origin either.
 * @param also names that we are reached by besides loopback
 * @throws FORBIDDEN to whoever asks by another name
 */
export function ownHostsOnly(also: (req: Request) => Iterable<string> = () => []): RequestHandler {
  const ours = (text: string | undefined, req: Request) => {
    const name = text === undefined ? null : nameOf(text)
    return name !== null && (LOOPBACK.has(name) || [...also(req)].includes(name))
  }
  return (req, _res, next) => {
    if (!ours(req.headers.host, req))
      throw new HttpProblem(
        'FORBIDDEN',
        'Tender Bridge does not answer under this name. Use the address that the start command printed.',
      )
    const { origin } = req.headers
    if (!READS.has(req.method) && origin !== undefined && !ours(origin, req))
      throw new HttpProblem(
        'FORBIDDEN',
        'A page of another place may not change anything here. Nothing was stored.',
      )
    next()
  }
}
