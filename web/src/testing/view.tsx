import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { jest } from '@jest/globals'
import {
  act,
  configure,
  render,
  renderHook,
  type RenderHookResult,
  type RenderResult,
} from '@testing-library/react'
import userEvent, { type UserEvent } from '@testing-library/user-event'
import type { ReactNode } from 'react'
import { MemoryRouter } from 'react-router'
import { ThemeProvider } from 'styled-components'
import { theme } from '../theme/theme'
import { ToastProvider } from '../ui/Toasts'

// What is waited for comes late on a busy machine; a second, which is usual, says nothing about the view.
configure({ asyncUtilTimeout: 15_000 })

/** What the server was asked, and what it answers: a body, or a status with a problem. */
export type Asked = {
  readonly method: string
  readonly path: string
  readonly query: string
  readonly body: unknown
}
export type Answer = { readonly status?: number; readonly body: unknown }

/**
 * Stands in for the server: every question is written down, and answered by the given function. It can be
 * unplugged.
 */
export class PretendServer {
  readonly asked: Asked[] = []
  unplugged = false
  private readonly answer: (asked: Asked) => Answer | Promise<Answer>

  constructor(answer: (asked: Asked) => Answer | Promise<Answer>) {
    this.answer = answer
    globalThis.fetch = (async (address: string, init: RequestInit = {}) => {
      if (this.unplugged) throw new TypeError('fetch failed')
      const [path, query = ''] = address.replace(/^\/api/, '').split('?')
      const asked = {
        method: init.method ?? 'GET',
        path,
        query,
        body: typeof init.body === 'string' ? JSON.parse(init.body) : init.body,
      }
      this.asked.push(asked)
      const { status = 200, body } = await this.answer(asked)
      const response: object = {
        ok: status < 400,
        status,
        json: async () => structuredClone(body),
        clone: () => response,
      }
      return response
    }) as typeof fetch
  }

  /** The questions that changed something. */
  get changes(): Asked[] {
    return this.asked.filter(({ method }) => method !== 'GET')
  }
}

/** A refusal as the server words it. */
export const refusal = (status: number, code: string, title: string, more: object = {}): Answer => ({
  status,
  body: { type: 'about:blank', status, code, title, ...more },
})

function around(children: ReactNode, client: QueryClient, path: string): ReactNode {
  return (
    <QueryClientProvider client={client}>
      <ThemeProvider theme={theme}>
        <ToastProvider>
          <MemoryRouter initialEntries={[path]}>{children}</MemoryRouter>
        </ToastProvider>
      </ThemeProvider>
    </QueryClientProvider>
  )
}

/** A cache that asks once and keeps what it got. */
const quietClient = () =>
  new QueryClient({
    defaultOptions: { queries: { retry: false, staleTime: Infinity }, mutations: { retry: false } },
  })

/** A view as it stands in the app, without a browser's layout. */
export function show(
  view: ReactNode,
  path = '/',
): RenderResult & { readonly user: UserEvent; readonly client: QueryClient } {
  const client = quietClient()
  return { ...render(around(view, client, path)), user: userEvent.setup(), client }
}

/** A hook as a view would use it. */
export function hooked<T>(
  hook: () => T,
  path = '/',
): RenderHookResult<T, unknown> & { readonly client: QueryClient } {
  const client = quietClient()
  return { ...renderHook(hook, { wrapper: ({ children }) => around(children, client, path) }), client }
}

/** Lets time go by on the pretended clock, in steps: what a view does after one wait may start the next. */
export async function pass(ms: number): Promise<void> {
  for (let gone = 0; gone < ms; gone += 100)
    await act(async () => jest.advanceTimersByTimeAsync(Math.min(100, ms - gone)))
}
