import { createBrowserRouter } from 'react-router'
import { Frame } from './frame/Frame'
import { LostPage } from './frame/LostPage'
import { StartPage } from './stations/start/StartPage'
import { VIEWS } from './views'

/** One route per view; everything a view shows can be linked to. */
export const router = createBrowserRouter([
  {
    element: <Frame />,
    errorElement: <LostPage />,
    // Nothing is shown in the blink before the first view's code is there.
    HydrateFallback: () => null,
    children: [
      { path: '/', element: <StartPage /> },
      ...Object.entries(VIEWS).map(([path, Component]) => ({ path, lazy: { Component } })),
      { path: '*', element: <LostPage /> },
    ],
  },
])
