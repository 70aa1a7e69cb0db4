import { createApp } from 'vue'
import '../admin/style.css'
import PartsPage from './PartsPage.vue'

createApp(PartsPage).mount('#app')
