import '@/styles/fonts.css'
import 'vuetify/styles'
import '@/styles/base.css'
import { VueQueryPlugin } from '@tanstack/vue-query'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import { createVuetify } from 'vuetify'
import App from './App.vue'
import { router } from './router'

createApp(App)
  .use(createPinia())
  .use(VueQueryPlugin, {
    queryClientConfig: { defaultOptions: { queries: { retry: 1, staleTime: 5_000, networkMode: 'always' } } },
  })
  .use(createVuetify({ theme: { defaultTheme: 'light' } }))
  .use(router)
  .mount('#app')
