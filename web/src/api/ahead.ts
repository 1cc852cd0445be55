/** A question asked ahead and not read for so long is asked anew: its answer may be an older one. */
const FRESH_MS = 5_000

const asked = new Map<string, { readonly answer: Promise<Response>; readonly at: number }>()

/** Nothing that is asked may come from what a browser kept without asking. */
export const FROM_SERVER = { cache: 'no-cache' } as const satisfies RequestInit

/** The address of a page of a shelf. */
export const pageAddress = (
  shelf: string,
  query: Readonly<Record<string, string | undefined>>,
  limit: number,
  offset: number,
): string =>
  `/${shelf}?${new URLSearchParams({ limit: String(limit), offset: String(offset), ...query } as Record<string, string>)}`

/** The address of what was last kept about a plan and about take-offs. */
export const lastKeptAddress = (plan: string): string => `/kept/last?about=learnt&about=${plan}`

/** As many as the server gives at once, for who needs all. */
export const MOST = 500

/** The plan that an address shows. */
export const planAt = (pathname: string): string | undefined => /^\/plans\/([^/]+)\/?$/.exec(pathname)?.[1]

/**
 * Asks for what the first view will ask for, while its code is still on the way. So far that is done for
 * plans, which ask for most.
 */
export function askAhead(pathname: string): void {
  const plan = planAt(pathname)
  if (!plan) return
  const planned = ask(`/plans/${plan}`)
  for (const shelf of ['printers', 'filaments', 'trials', 'take-offs'])
    void ask(pageAddress(shelf, {}, MOST, 0))
  for (const path of ['/families', '/workshop', lastKeptAddress(plan)]) void ask(path)
  void readAhead<{ partId: string }>(planned)
    .then((found) => found && readAhead<{ meshSha256: string }>(ask(`/parts/${found.partId}`)))
    .then((part) => part && void ask(`/meshes/${part.meshSha256}/packed`, {}))
    .catch(() => undefined)
}

/** The answer to a question that was asked ahead, for the first who asks it. */
export function takeAhead(path: string): Promise<Response> | undefined {
  const found = asked.get(path)
  asked.delete(path)
  return found && performance.now() - found.at < FRESH_MS ? found.answer : undefined
}

/** A change makes old whatever was asked before it. */
export const forgetAhead = (): void => asked.clear()

function ask(path: string, init: RequestInit = FROM_SERVER): Promise<Response> {
  const answer = fetch(`/api${path}`, init)
  // Silence is told to whoever takes the answer.
  answer.catch(() => undefined)
  asked.set(path, { answer, at: performance.now() })
  return answer
}

/** What an answer says, which stays to be read by others; null for a refusal. */
async function readAhead<T>(answer: Promise<Response>): Promise<T | null> {
  const response = await answer
  return response.ok ? ((await response.clone().json()) as T) : null
}
