import { createApp, defineAsyncComponent } from 'vue'
import App from './App.vue'
import './style.css'

// Few people check a document: that page is fetched only where it is asked for.
const CheckView = defineAsyncComponent(() => import('./check/CheckView.vue'))
createApp(/^\/check(\/|$)/.test(location.pathname) ? CheckView : App).mount('#app')

// Inside another site's page the frame follows the form's height.
if (window.parent !== window) {
  const tell = () =>
    window.parent.postMessage(
      { ambersealHeight: document.documentElement.getBoundingClientRect().height, ambersealTitle: document.title },
      '*',
    )
  new ResizeObserver(tell).observe(document.documentElement)
}
