import '@/styles/fonts.css'
import 'vuetify/styles/core'
import '@/styles/base.css'
import { VueQueryPlugin } from '@tanstack/vue-query'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import { createVuetify } from 'vuetify'
import App from './App.vue'
import { defaults } from './kit/vuetify'
import { useMe } from './composables/useMe'
import { router } from './router'

/** Sets the program up, a part at a time: in a breath between two the browser draws and answers. */
export async function begin(breath: () => Promise<unknown>) {
  const app = createApp(App)
    .use(createPinia())
    .use(VueQueryPlugin, {
      queryClientConfig: {
        defaultOptions: { queries: { retry: 1, staleTime: 5_000, networkMode: 'always', shallow: true } },
      },
    })
  await breath()
  const vuetify = createVuetify({ theme: false, defaults })
  await breath()
  app.use(vuetify)
  await breath()
  app.use(router)
  await router.isReady()
  await breath()
  app.runWithContext(useMe) // asks who is signed in
  await breath()
  app.mount('#app')
}
