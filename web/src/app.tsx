import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { I18nProvider } from 'react-aria-components'
import { RouterProvider } from 'react-router'
import { ThemeProvider } from 'styled-components'
import { ApiError } from './api/client'
import { readAhead } from './api/readAhead'
import { router } from './router'
import { GlobalStyle } from './theme/GlobalStyle'
import { theme } from './theme/theme'
import { ToastProvider } from './ui/Toasts'

const client = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 5_000,
      // Whether the browser sees a network says nothing of a server on this machine or in this house: it is
      // always asked, and silence is told.
      networkMode: 'always',
      refetchOnReconnect: true,
      // Only silence is worth asking again; a refusal stays one.
      retry: (count, error) => count < 2 && error instanceof ApiError && error.problem.code === 'OFFLINE',
    },
    mutations: { retry: false, networkMode: 'always' },
  },
})

readAhead(client, location.pathname)

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={client}>
      <ThemeProvider theme={theme}>
        <GlobalStyle />
        {/* Numbers look alike everywhere, whatever the browser speaks: with a point. */}
        <I18nProvider locale="en-GB">
          <ToastProvider>
            <RouterProvider router={router} />
          </ToastProvider>
        </I18nProvider>
      </ThemeProvider>
    </QueryClientProvider>
  </StrictMode>,
)
