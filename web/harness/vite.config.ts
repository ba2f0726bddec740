import { fileURLToPath, URL } from 'node:url'
import { defineConfig } from 'vite'

// The queue of web/src/kept without pages, for e2e/torture_test.go: it plays bad networks, clocks and restarts on it.
export default defineConfig({
  root: fileURLToPath(new URL('.', import.meta.url)),
  base: '/harness/',
  publicDir: 'static',
  resolve: { alias: { '@': fileURLToPath(new URL('../src', import.meta.url)) } },
  define: { 'process.env.NODE_ENV': '"production"' },
  build: { outDir: 'dist', emptyOutDir: true },
})
