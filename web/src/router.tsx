import { createBrowserRouter } from 'react-router'
import { findDialog, keysDialog } from './frame/dialogs'
import { Frame } from './frame/Frame'
import { LostPage } from './frame/LostPage'
import { StartPage } from './stations/start/StartPage'

/**
 * Where each view's code comes from: only what is looked at is loaded, the rest follows once the page is at
 * rest.
 */
const VIEWS = {
  '/bench': async () => (await import('./stations/bench/BenchPage')).BenchPage,
  '/bench/families': async () => (await import('./stations/bench/FamiliesPage')).FamiliesPage,
  '/pairings': async () => (await import('./stations/pairings/PairingsPage')).PairingsPage,
  '/pairings/:part/:touching': async () => (await import('./stations/pairings/PairingPage')).PairingPage,
  '/trials': async () => (await import('./stations/trials/TrialsPage')).TrialsPage,
  '/trials/new': async () => (await import('./stations/trials/NewTrialPage')).NewTrialPage,
  '/trials/new/:kind': async () => (await import('./stations/trials/NewTrialPage')).NewTrialPage,
  '/trials/:id/watch': async () => (await import('./stations/printRuns/WatchCouponPage')).WatchCouponPage,
  '/trials/:id': async () => (await import('./stations/trials/TrialPage')).TrialPage,
  '/parts': async () => (await import('./stations/parts/PartsPage')).PartsPage,
  '/parts/:id': async () => (await import('./stations/parts/PartPage')).PartPage,
  '/parts/:id/plans': async () => (await import('./stations/plans/SideBySidePage')).SideBySidePage,
  '/parts/:id/bed': async () => (await import('./stations/plans/oneBed/OneBedPage')).OneBedPage,
  '/plans': async () => (await import('./stations/plans/PlansPage')).PlansPage,
  '/plans/:id': async () => (await import('./stations/plans/PlanPage')).PlanPage,
  '/plans/:id/better': async () => (await import('./stations/plans/BetterPage')).BetterPage,
  '/take-offs': async () => (await import('./stations/takeOffs/TakeOffsPage')).TakeOffsPage,
  '/take-offs/bed/:id': async () => (await import('./stations/takeOffs/BedPage')).BedPage,
  '/take-offs/:id/watch': async () => (await import('./stations/printRuns/WatchPage')).WatchPage,
  '/take-offs/:id': async () => (await import('./stations/takeOffs/TakeOffPage')).TakeOffPage,
  '/plans/:id/sheet': async () => (await import('./stations/plans/SheetPage')).SheetPage,
}

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

/** Time after which a page counts as at rest. */
const REST_MS = 5_000

/**
 * Fetches the code of all other views, so that they open at once, and open at all when the server is gone for
 * an evening.
 */
export function fetchOtherViews(): void {
  setTimeout(() => {
    for (const view of [...Object.values(VIEWS), findDialog, keysDialog]) view().catch(() => undefined)
    // Pictures that an earlier visit could not send.
    void import('./keep/photoOutbox').then(({ sendWaiting }) => sendWaiting()).catch(() => undefined)
  }, REST_MS)
}
