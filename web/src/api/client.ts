import { Problem } from '@tender/contract'
import type { z } from 'zod'
import { forgetAhead, FROM_SERVER, takeAhead } from './ahead'

/** A refusal of the server, or the silence of it (OFFLINE). */
export class ApiError extends Error {
  readonly problem: Problem
  constructor(problem: Problem) {
    super(problem.title)
    this.problem = problem
  }
}

const offline: Problem = {
  type: 'about:blank',
  title: 'The server does not answer. What you typed is kept here; try again in a moment.',
  status: 0,
  code: 'OFFLINE',
}
const garbled: Problem = {
  type: 'about:blank',
  title: 'The server answered with something else than was asked for.',
  status: 0,
  code: 'INTERNAL',
}

async function send(path: string, init: RequestInit): Promise<Response> {
  const changes = init.method !== undefined && init.method !== 'GET'
  if (changes) forgetAhead()
  let response: Response
  try {
    response = await (takeAhead(path) ?? fetch(`/api${path}`, init))
  } catch (error) {
    if ((error as Error).name === 'AbortError') throw error
    throw new ApiError(offline)
  }
  if (response.ok) return response
  const problem = Problem.safeParse(await response.json().catch(() => null))
  throw new ApiError(problem.success ? problem.data : garbled)
}

/** Asks the server and checks that the answer is what the contract says. */
export async function ask<T>(
  path: string,
  answer: z.ZodType<T>,
  { method = 'GET', body, signal }: { method?: string; body?: unknown; signal?: AbortSignal } = {},
): Promise<T> {
  const response = await send(path, {
    method,
    signal,
    ...FROM_SERVER,
    ...(body === undefined
      ? {}
      : { body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } }),
  })
  const parsed = answer.safeParse(await response.json())
  if (!parsed.success) throw new ApiError(garbled)
  return parsed.data
}

/** Sends a file as it is; one from the maker's disk is read while it goes. */
export async function sendFile<T>(
  path: string,
  bytes: Uint8Array | Blob,
  answer: z.ZodType<T>,
  method: 'PUT' | 'POST' = 'PUT',
  headers: Record<string, string> = {},
): Promise<T> {
  const response = await send(path, {
    method,
    body: bytes as Blob | Uint8Array<ArrayBuffer>,
    headers: { 'Content-Type': 'application/octet-stream', ...headers },
  })
  return answer.parse(await response.json())
}

export async function tellServer(path: string, method: 'DELETE' | 'POST'): Promise<void> {
  await send(path, { method })
}

/** A stored part's mended mesh, packed. */
export async function meshBytes(sha256: string, signal?: AbortSignal): Promise<Uint8Array> {
  const response = await send(`/meshes/${sha256}/packed`, { signal })
  return new Uint8Array(await response.arrayBuffer())
}

/** As much of it, packed, as a small picture needs. */
export async function roughMeshBytes(sha256: string, signal?: AbortSignal): Promise<Uint8Array> {
  const response = await send(`/meshes/${sha256}/rough`, { signal })
  return new Uint8Array(await response.arrayBuffer())
}
