import '@fontsource-variable/public-sans'
import '@fontsource-variable/bitter'
import '@fontsource-variable/spline-sans-mono'
import '@fontsource-variable/atkinson-hyperlegible-next'
import '@fontsource/andika/latin.css'
import '@fontsource/andika/latin-italic.css'
import '@fontsource/andika/latin-ext.css'
import '@fontsource/andika/latin-ext-italic.css'
import './theme/tokens.css'
import './theme/ledger.css'
import { VueQueryPlugin } from '@tanstack/vue-query'
import PrimeVue from 'primevue/config'
import { createApp } from 'vue'
import App from './App.vue'
import { queries } from './contract/client'
import { router } from './router'
import { ledgerPreset } from './theme/preset'

const nonce = document.querySelector<HTMLMetaElement>('meta[name="csp-nonce"]')?.content

createApp(App)
  .use(PrimeVue, {
    csp: { nonce },
    theme: {
      preset: ledgerPreset,
      options: { darkModeSelector: 'system', cssLayer: { name: 'primevue', order: 'base, primevue, app' } },
    },
  })
  .use(VueQueryPlugin, { queryClient: queries })
  .use(router)
  .mount('#app')
