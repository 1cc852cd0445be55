import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'

export default defineConfig({
  plugins: [react()],
  worker: { format: 'es' },
  // The engines find their WebAssembly by address, which pre-bundling would break.
  optimizeDeps: { exclude: ['clipper2-wasm', 'manifold-3d'] },
  build: { target: 'es2022', chunkSizeWarningLimit: 2000 },
  server: { proxy: { '/api': process.env.TENDER_API ?? 'http://127.0.0.1:4780' } },
})
