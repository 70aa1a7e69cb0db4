import { nextTick, ref } from 'vue'
import { createRouter, createWebHistory } from 'vue-router'
import { t } from './words'

export const stations = ['form', 'documents', 'notices', 'filing', 'opening'] as const
export type Station = (typeof stations)[number]

export const router = createRouter({
  history: createWebHistory('/'),
  routes: [
    { path: '/', component: () => import('./desk/DeskView.vue'), meta: { title: t('program.desk') } },
    {
      path: '/sign-in',
      component: () => import('./signin/SignInView.vue'),
      meta: { title: t('program.sign'), door: true },
    },
    { path: '/intakes', component: () => import('./intakes/IntakesView.vue'), meta: { title: t('program.intakes') } },
    { path: '/intakes/:id(\\d+)', redirect: (to) => `${to.path}/form` },
    {
      path: '/intakes/:id(\\d+)/:station(form|documents|notices|filing|opening)',
      component: () => import('./workspace/WorkspaceView.vue'),
      meta: { title: t('program.intake') },
    },
    {
      path: '/register',
      component: () => import('./register/RegisterView.vue'),
      meta: { title: t('program.register') },
    },
    {
      path: '/register/:id(\\d+)',
      component: () => import('./submission/SubmissionView.vue'),
      meta: { title: t('program.submission') },
    },
    { path: '/post', component: () => import('./post/PostView.vue'), meta: { title: t('program.post') } },
    { path: '/cabinet', component: () => import('./cabinet/CabinetView.vue'), meta: { title: t('program.cabinet') } },
    { path: '/house/people', component: () => import('./people/PeopleView.vue'), meta: { title: t('program.people') } },
    { path: '/house/mail', component: () => import('./outside/MailView.vue'), meta: { title: t('outside.mail') } },
    {
      path: '/house/destinations',
      component: () => import('./outside/DestinationsView.vue'),
      meta: { title: t('outside.destinations') },
    },
    { path: '/account', component: () => import('./account/AccountView.vue'), meta: { title: t('program.you') } },
    {
      path: '/welcome/:token',
      component: () => import('./signin/WelcomeView.vue'),
      meta: { title: t('program.welcome'), door: true },
    },
    { path: '/house', component: () => import('./house/HouseView.vue'), meta: { title: t('program.house') } },
    {
      path: '/:rest(.*)',
      component: () => import('./parts/NothingHere.vue'),
      meta: { title: t('program.nothingHere') },
    },
  ],
})

/** The words of the page's tab: what it is about, then where. */
export function setTitle(...parts: (string | undefined)[]) {
  document.title = [...parts.filter(Boolean), 'Amber Seal'].join(' · ')
}

/** Takes the keyboard to the head of what was opened, so that the next Tab goes on from there; views are fetched and take a moment. */
export async function focusHead(of = 'main h1') {
  for (let tries = 0; tries < 40; tries++) {
    await nextTick()
    const head = document.querySelector<HTMLElement>(of)
    if (head) {
      // Somebody who went on meanwhile, or a view that chose better, is left there.
      if (document.activeElement && document.activeElement !== document.body && document.activeElement.closest('main'))
        return
      if (!head.matches('input, textarea, button, a')) head.tabIndex = -1
      head.focus({ preventScroll: true })
      return
    }
    await new Promise((done) => setTimeout(done, 50))
  }
}

/** Where somebody wanted to go when a view could not be fetched, or nothing. */
export const unreached = ref('')
router.onError((error, to) => {
  if (/dynamically imported module|module script|Failed to fetch|preload/i.test(String(error)))
    unreached.value = to.fullPath
  else throw error
})

router.afterEach((to, from) => {
  unreached.value = ''
  setTitle(String(to.meta.title))
  if (from.matched.length && to.path !== from.path) void focusHead()
})
