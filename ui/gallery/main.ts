import { createApp } from 'vue'
import '../admin/style.css'
import { i18n } from '../admin/words'
import PartsPage from './PartsPage.vue'

createApp(PartsPage).use(i18n).mount('#app')
