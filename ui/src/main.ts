import './woods/begin'
import '@fontsource-variable/atkinson-hyperlegible-next/wght.css'
import '@fontsource-variable/literata/wght-italic.css'
import 'primeicons/primeicons.css'
import './frame/base.css'
import './frame/print.css'
import { createPinia } from 'pinia'
import PrimeVue from 'primevue/config'
import ConfirmationService from 'primevue/confirmationservice'
import ToastService from 'primevue/toastservice'
import { createApp } from 'vue'
import App from './frame/App.vue'
import { router } from './frame/router'
import { winter } from './frame/theme'
import { tooltip } from './frame/tooltip'
import { keepPages } from './woods/renew'

const app = createApp(App)
  .use(createPinia())
  .use(router)
  .use(PrimeVue, {
    theme: { preset: winter, options: { darkModeSelector: "[data-theme='dark']" } },
    pt: { autocomplete: { listContainer: { tabindex: 0 } } }, // a list that scrolls can be scrolled by keys
  })
  .use(ToastService)
  .use(ConfirmationService)
  .directive('tooltip', tooltip)

setTimeout(() => app.mount('#app')) // the browser may answer the hand between reading the program and drawing
keepPages(router)
