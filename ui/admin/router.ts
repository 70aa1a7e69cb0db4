import { createRouter, createWebHistory } from 'vue-router'

export const stations = ['form', 'documents', 'notices', 'filing', 'opening'] as const
export type Station = (typeof stations)[number]

export const router = createRouter({
  history: createWebHistory('/'),
  routes: [
    { path: '/', component: () => import('./desk/DeskView.vue'), meta: { title: 'Desk' } },
    { path: '/sign-in', component: () => import('./signin/SignInView.vue'), meta: { title: 'Sign in', door: true } },
    { path: '/intakes', component: () => import('./intakes/IntakesView.vue'), meta: { title: 'Intakes' } },
    { path: '/intakes/:id(\\d+)', redirect: (to) => `${to.path}/form` },
    {
      path: '/intakes/:id(\\d+)/:station(form|documents|notices|filing|opening)',
      component: () => import('./workspace/WorkspaceView.vue'),
      meta: { title: 'Intake' },
    },
    { path: '/register', component: () => import('./register/RegisterView.vue'), meta: { title: 'Register' } },
    {
      path: '/register/:id(\\d+)',
      component: () => import('./submission/SubmissionView.vue'),
      meta: { title: 'Submission' },
    },
    { path: '/post', component: () => import('./post/PostView.vue'), meta: { title: 'Post' } },
    { path: '/cabinet', component: () => import('./cabinet/CabinetView.vue'), meta: { title: 'Cabinet' } },
    { path: '/house', component: () => import('./house/HouseView.vue'), meta: { title: 'House' } },
    { path: '/:rest(.*)', component: () => import('./parts/NothingHere.vue'), meta: { title: 'Nothing here' } },
  ],
})

router.afterEach((to) => {
  document.title = `${String(to.meta.title)} · Amber Seal`
})
