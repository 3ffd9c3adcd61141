import '@fontsource-variable/atkinson-hyperlegible-next/wght.css'
import '@fontsource-variable/literata/wght-italic.css'
import 'primeicons/primeicons.css'
import './styles/base.css'
import { createPinia } from 'pinia'
import PrimeVue from 'primevue/config'
import { createApp } from 'vue'
import App from './App.vue'
import { router } from './router'
import { winter } from './theme'

createApp(App)
  .use(createPinia())
  .use(router)
  .use(PrimeVue, { theme: { preset: winter, options: { darkModeSelector: "[data-theme='dark']" } } })
  .mount('#app')
