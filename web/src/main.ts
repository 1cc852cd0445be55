import '@fontsource-variable/commissioner'
import '@fontsource-variable/newsreader'
import '@fontsource/spline-sans-mono/400.css'
import '@fontsource/spline-sans-mono/500.css'
import { askAhead } from './api/ahead'
import { fetchOtherViews, fetchView } from './views'

// Zod would try whether it may write code: our pages may not, and each try is reported as a breach.
Object.assign(globalThis, { __zod_globalConfig: { jitless: true } })
// What the first view needs, its code and what it asks the server for, comes beside the code that shows it.
askAhead(location.pathname)
fetchView(location.pathname)
void import('./app')
fetchOtherViews()
