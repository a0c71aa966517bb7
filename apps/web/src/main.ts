// Entry of the web application.
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import App from './App.vue'
import { router } from './router.ts'
import { vuetify } from './theme/vuetify.ts'
import './theme/fonts.css'
import './theme/look.css'

createApp(App).use(createPinia()).use(router).use(vuetify).mount('#app')
