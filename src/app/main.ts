import './theme/fonts'
import './theme/base.css'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import App from './App.vue'
import { useKeeping } from '../stores/keeping'
import { useOffline } from '../stores/offline'
import { router } from './router'
import { say } from './words/say'

const pinia = createPinia()
// Whatever stands between the page and its storage is heard from the first that is asked of it.
useKeeping(pinia)
useOffline(pinia).start()
const app = createApp(App).use(pinia).use(router)
app.config.globalProperties.$say = say
app.mount('#app')
