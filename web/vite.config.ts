import vue from '@vitejs/plugin-vue'
import { fileURLToPath, URL } from 'node:url'
import { defineConfig } from 'vite'
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
    icons: [{ src: '/mark.svg', sizes: 'any', type: 'image/svg+xml' }],
  },
  workbox: {
    globPatterns: ['**/*.{js,css,html,woff2,svg,gz}'],
    globIgnores: ['**/judge.wasm'],
    maximumFileSizeToCacheInBytes: 4_000_000,
    navigateFallback: '/index.html',
    navigateFallbackDenylist: [/^\/api\//, /^\/feeds\//, /^\/healthz/],
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

export default defineConfig({
  plugins: [vue(), vuetify({ autoImport: true }), pwa],
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  build: {
    outDir: '../internal/webui/dist',
    emptyOutDir: true,
    // Fonts stay files: a data address would not pass the content policy.
    assetsInlineLimit: 0,
  },
  server: { proxy: { '/api': 'http://127.0.0.1:8417' } },
})
