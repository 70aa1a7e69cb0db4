import { createApp } from 'vue'
import App from './App.vue'
import './style.css'

createApp(App).mount('#app')

// Inside another site's page the frame follows the form's height.
if (window.parent !== window) {
  const tell = () =>
    window.parent.postMessage({ ambersealHeight: document.documentElement.getBoundingClientRect().height }, '*')
  new ResizeObserver(tell).observe(document.documentElement)
}
