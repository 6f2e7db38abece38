import './theme/fonts'
import './theme/base.css'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import App from './App.vue'
import { useBrowserStorage } from '../stores/browser-storage'
import { useOffline } from './offline'
import { router } from './router'

const pinia = createPinia()
// Whatever stands between the page and its storage is heard from the first that is asked of it.
useBrowserStorage(pinia)
useOffline(pinia).start()
createApp(App).use(pinia).use(router).mount('#app')
