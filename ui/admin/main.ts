import { createApp } from 'vue'
import App from './App.vue'
import { router } from './router'
import './style.css'
import { i18n } from './words'

createApp(App).use(i18n).use(router).mount('#app')
