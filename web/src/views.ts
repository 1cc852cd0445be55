import { findDialog, keysDialog } from './frame/dialogs'

/**
 * Where each view's code comes from: only what is looked at is loaded, the rest follows once the page is at
 * rest.
 */
export const VIEWS = {
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

/** Fetches the code of the view at an address, before anything is there that could show it. */
export function fetchView(pathname: string): void {
  const found = Object.entries(VIEWS).find(([path]) =>
    new RegExp(`^${path.replace(/:\w+/g, '[^/]+')}/?$`).test(pathname),
  )
  found?.[1]().catch(() => undefined)
}

/** Time after which a page counts as at rest. */
const REST_MS = 5_000

/**
 * Fetches the code of all other views, so that they open at once, and open at all when the server is gone for
 * an evening.
 */
export function fetchOtherViews(): void {
  setTimeout(() => {
    for (const view of [...Object.values(VIEWS), findDialog, keysDialog]) view().catch(() => undefined)
    // The thread that plans fetches its code itself, once it is started.
    void import('./workers/geometry').then(({ planning }) => void planning()).catch(() => undefined)
    // Pictures that an earlier visit could not send.
    void import('./keep/photoOutbox').then(({ sendWaiting }) => sendWaiting()).catch(() => undefined)
  }, REST_MS)
}
