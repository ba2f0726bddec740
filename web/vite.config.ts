import vue from '@vitejs/plugin-vue'
import { readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath, URL } from 'node:url'
import { brotliCompressSync, constants, gzipSync } from 'node:zlib'
import { defineConfig, type Plugin, type Rolldown } from 'vite'
import { VitePWA } from 'vite-plugin-pwa'
import vuetify from 'vite-plugin-vuetify'

// The pages, their fonts and the rules stay on the device, for a cold start without signal. What the server answers is
// kept by src/kept; only pictures, which never change, are kept here.
const pwa = VitePWA({
  injectRegister: null, // src/main.ts does it
  registerType: 'prompt', // a new version waits for the next start: nobody's form is reloaded
  manifest: {
    name: 'Dogbolt',
    short_name: 'Dogbolt',
    description: 'EV charger installations, from survey to handover',
    theme_color: '#17212B',
    background_color: '#F7F4EE',
    display: 'standalone',
    icons: [
      { src: 'mark.svg', sizes: 'any', type: 'image/svg+xml' },
      { src: 'icon-192.png', sizes: '192x192', type: 'image/png' },
      { src: 'icon-512.png', sizes: '512x512', type: 'image/png' },
      { src: 'icon-maskable.png', sizes: '512x512', type: 'image/png', purpose: 'maskable' },
    ],
  },
  workbox: {
    globPatterns: ['**/*.{js,css,html,woff2,svg,png}', 'judge.wasm.gz'],
    maximumFileSizeToCacheInBytes: 4_000_000,
    navigateFallback: 'index.html',
    navigateFallbackDenylist: [/\/api\//, /\/feeds\//, /\/healthz/],
    clientsClaim: true,
    runtimeCaching: [
      {
        urlPattern: /\/api\/jobs\/[^/]+\/photos\/[0-9a-f]{64}$/,
        handler: 'CacheFirst',
        options: { cacheName: 'photos', expiration: { maxEntries: 300, purgeOnQuotaError: true } },
      },
    ],
  },
})

/** Leaves each page, style and script beside itself as Brotli and gzip: the server sends what the browser takes. */
const compressed: Plugin = {
  name: 'compressed',
  apply: 'build',
  closeBundle: {
    order: 'post',
    sequential: true,
    handler() {
      const dist = fileURLToPath(new URL('../internal/webui/dist', import.meta.url))
      for (const name of readdirSync(dist, { recursive: true, encoding: 'utf8' })) {
        const file = join(dist, name)
        if (!/\.(js|css|html|svg|webmanifest)$/.test(name) || statSync(file).size < 1000) continue
        const body = readFileSync(file)
        writeFileSync(`${file}.br`, brotliCompressSync(body, { params: { [constants.BROTLI_PARAM_QUALITY]: 11 } }))
        writeFileSync(`${file}.gz`, gzipSync(body, { level: 9 }))
      }
    },
  },
}

/** Moves style sheets behind the first words of the page, which do not wait for them then. */
const wordsFirst: Plugin = {
  name: 'words-first',
  transformIndexHtml: {
    order: 'post',
    handler(html) {
      const sheets = html.match(/ *<link rel="stylesheet"[^>]*>\n?/g) ?? []
      return sheets.reduce((h, s) => h.replace(s, ''), html).replace('</body>', `${sheets.join('')}</body>`)
    },
  },
}

type Modules = { getModuleInfo(id: string): { importers: string[] } | null }

/** Whether a module comes with the program's first file. */
function comesFirst(id: string, modules: Modules, seen = new Set<string>()): boolean {
  if (/\/src\/(main|start)\.ts$/.test(id)) return true
  seen.add(id)
  const by = modules.getModuleInfo(id)?.importers ?? []
  return by.some((i) => !seen.has(i) && comesFirst(i, modules, seen))
}

/** What every page begins with, in files that run apart, so that a tap in between is answered. */
const begins = Object.entries({
  vue: /\/node_modules\/(@vue|vue|vue-router|pinia|@tanstack)\//,
  base: /\/node_modules\/(dexie|@?vuetify)\/(?!lib\/styles)/,
  first: /\/(src\/(?!(main|start)\.ts)|node_modules\/)|^\0(rolldown|plugin-vue)/,
}).map(([name, test]) => ({
  debugName: name,
  name: (id: string, modules: Modules) => (comesFirst(id, modules) ? name : null),
  test: (id: string) => test.test(id),
}))

/**
 * Has the page ask for what it begins with at once, in the order in which it runs: on a slow line one call after the
 * other takes seconds each.
 */
const atOnce: Plugin = {
  name: 'at-once',
  transformIndexHtml: {
    order: 'post',
    handler(html, { bundle = {} }) {
      const files: string[] = []
      const ask = (file: string) => {
        const f = bundle[file]
        if (f?.type !== 'chunk' || files.includes(file)) return
        f.imports.forEach(ask)
        files.push(file)
      }
      for (const name of [...begins.map((b) => b.debugName), 'start'])
        Object.values(bundle).forEach((f) => f.type === 'chunk' && f.name === name && ask(f.fileName))
      const sheets = files.flatMap((file) => [
        ...((bundle[file] as Rolldown.OutputChunk).viteMetadata?.importedCss ?? []),
      ])
      const links = [
        ...files.map((file) => `<link rel="modulepreload" crossorigin href="./${file}">`),
        ...sheets.map((file) => `<link rel="stylesheet" crossorigin href="./${file}">`),
      ].filter((l) => !html.includes(/href="[^"]*"/.exec(l)![0]))
      return html.replace('</head>', `${links.join('\n')}\n</head>`)
    },
  },
}

/** One file for what the pages of a job share: each file more is one more call on a slow line. */
const job = {
  debugName: 'job',
  name: (id: string, modules: Modules) => (comesFirst(id, modules) ? null : 'job'),
  test: /\/src\/(kit|composables|kept)\/|\/src\/features\/[^/]+$|\/src\/pages\/JobFrame\.vue/,
}

export default defineConfig({
  base: './', // under whichever folder of a host the server is
  plugins: [vue(), vuetify({ autoImport: true }), pwa, compressed, atOnce, wordsFirst],
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  build: {
    outDir: '../internal/webui/dist',
    emptyOutDir: true,
    // Fonts stay files: a data address would not pass the content policy.
    assetsInlineLimit: 0,
    rolldownOptions: { output: { codeSplitting: { groups: [...begins, job], includeDependenciesRecursively: false } } },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:8417' } },
})
