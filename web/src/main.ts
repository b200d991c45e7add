import '@fontsource/barlow/latin-400.css'
import '@fontsource/barlow/latin-500.css'
import '@fontsource/barlow/latin-600.css'
import '@fontsource/barlow-condensed/latin-500.css'
import '@fontsource/barlow-condensed/latin-600.css'
import { createApp } from 'vue'
import App from './App.vue'
import AllowedLink from './components/common/AllowedLink.vue'
import { i18n, speak } from './i18n'
import { language } from './i18n/language'
import { vLead } from './composables/vLead'
import { followFocus } from './composables/useFocus'
import { startOffline } from './offline/start'
import { router } from './router'
import './tokens.css'

startOffline()
followFocus(router)
const app = createApp(App).use(router).use(i18n)
app.component('RouterLink', AllowedLink) // in place of the router's own
app.directive('lead', vLead)
void speak(language.value)
  .catch(() => undefined) // then it is English
  .then(() => app.mount('#app'))
