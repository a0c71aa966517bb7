// Entry of the web application.
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import { createWebHistory } from 'vue-router'
import App from './App.vue'
import { openRouter } from './router.ts'
import { vuetify } from './theme/vuetify.ts'
import './theme/fonts.css'
import './theme/look.css'

createApp(App).use(createPinia()).use(openRouter(createWebHistory())).use(vuetify).mount('#app')
