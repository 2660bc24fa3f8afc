import './app/base.css'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import App from './app/App.vue'
import { router } from './app/router.ts'
import { vuetify } from './app/vuetify.ts'

createApp(App).use(createPinia()).use(router).use(vuetify).mount('#app')
