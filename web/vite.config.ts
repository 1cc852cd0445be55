import { createHash } from 'node:crypto'
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import locales from '@react-aria/optimize-locales-plugin'
import react from '@vitejs/plugin-react'
import { defineConfig, type Plugin } from 'vite'

/** Plans are worked out by these, and what is kept of them is shaped by these. */
const MAKES_RESULTS = ['../core/src', 'src/workers']
/** Results that another version made are not shown. */
function plannerVersion(): string {
  const hash = createHash('sha256')
  for (const folder of MAKES_RESULTS.map((path) => join(import.meta.dirname, path)))
    for (const file of readdirSync(folder, { recursive: true, encoding: 'utf8' }).toSorted())
      if (file.endsWith('.ts') && !file.endsWith('.test.ts'))
        hash.update(file).update(readFileSync(join(folder, file)))
  return hash.digest('hex').slice(0, 16)
}

/** What begins before anything else is there must not wait for what all views share. */
const FIRST = {
  name: 'first',
  test: /src\/(views|api\/ahead|frame\/dialogs)\.ts|preload-helper/,
  priority: 1,
}
/**
 * What many views read comes in few files: a browser fetches six at a time, and a view that asks for sixty
 * waits for them.
 */
const SHARED = { name: 'shared', minShareCount: 3, entriesAware: true, entriesAwareMergeThreshold: 6_000 }

/** The server works answers out ahead for just this version. */
const PLANNER_VERSION = plannerVersion()
const tellVersion: Plugin = {
  name: 'tell-version',
  generateBundle() {
    this.emitFile({ type: 'asset', fileName: 'planner-version.txt', source: PLANNER_VERSION })
  },
}

/** What every view is shown by is fetched as soon as the page is there, before anything asks for it. */
const appAtOnce: Plugin = {
  name: 'app-at-once',
  transformIndexHtml: {
    order: 'post',
    handler(html, { bundle }) {
      const chunks = Object.values(bundle ?? {}).filter((one) => one.type === 'chunk')
      const app = chunks.find(({ name, isDynamicEntry }) => name === 'app' && isDynamicEntry)
      const files = app ? [app.fileName, ...app.imports] : []
      return files
        .filter((file) => !html.includes(file))
        .map((file) => ({
          tag: 'link',
          attrs: { rel: 'modulepreload', crossorigin: true, href: `/${file}` },
          injectTo: 'head' as const,
        }))
    },
  },
}

export default defineConfig({
  // Its own words, like ours, are English whatever the browser speaks; thirty other tongues stay behind.
  plugins: [locales.vite({ locales: ['en-US'] }), react(), appAtOnce, tellVersion],
  define: { PLANNER_VERSION: JSON.stringify(PLANNER_VERSION) },
  worker: { format: 'es' },
  // The engines find their WebAssembly by address, which pre-bundling would break.
  optimizeDeps: { exclude: ['clipper2-wasm', 'manifold-3d'] },
  build: {
    target: 'es2022',
    chunkSizeWarningLimit: 2000,
    rolldownOptions: {
      output: {
        codeSplitting: { groups: [FIRST, SHARED] },
        // Named after all that read them, shared files would fill the first one with their names.
        chunkFileNames: ({ name }) => `assets/${name.split('~')[0]}-[hash].js`,
      },
    },
  },
  server: { proxy: { '/api': process.env.TENDER_API ?? 'http://127.0.0.1:4780' } },
})
