import { createBrowserRouter } from 'react-router'
import { Frame } from './frame/Frame'
import { LostPage } from './frame/LostPage'
import { FamiliesPage } from './stations/bench/FamiliesPage'
import { BenchPage } from './stations/bench/BenchPage'
import { PartPage } from './stations/parts/PartPage'
import { PartsPage } from './stations/parts/PartsPage'
import { PairingPage } from './stations/pairings/PairingPage'
import { PairingsPage } from './stations/pairings/PairingsPage'
import { PlanPage } from './stations/plans/PlanPage'
import { PlansPage } from './stations/plans/PlansPage'
import { SheetPage } from './stations/plans/SheetPage'
import { StartPage } from './stations/start/StartPage'
import { NewTrialPage } from './stations/trials/NewTrialPage'
import { TrialPage } from './stations/trials/TrialPage'
import { TrialsPage } from './stations/trials/TrialsPage'

/** One route per view; everything a view shows can be linked to. */
export const router = createBrowserRouter([
  {
    element: <Frame />,
    errorElement: <LostPage />,
    children: [
      { path: '/', element: <StartPage /> },
      { path: '/bench', element: <BenchPage /> },
      { path: '/bench/families', element: <FamiliesPage /> },
      { path: '/pairings', element: <PairingsPage /> },
      { path: '/pairings/:part/:touching', element: <PairingPage /> },
      { path: '/trials', element: <TrialsPage /> },
      { path: '/trials/new', element: <NewTrialPage /> },
      { path: '/trials/new/:kind', element: <NewTrialPage /> },
      { path: '/trials/:id', element: <TrialPage /> },
      { path: '/parts', element: <PartsPage /> },
      { path: '/parts/:id', element: <PartPage /> },
      { path: '/plans', element: <PlansPage /> },
      { path: '/plans/:id', element: <PlanPage /> },
      { path: '/plans/:id/sheet', element: <SheetPage /> },
      { path: '*', element: <LostPage /> },
    ],
  },
])
