import { createRouter, createWebHistory } from 'vue-router'

/** The sections that are there, in the order of the work. */
export const sections = [
  { name: 'board', path: '/board', title: 'Board' },
  { name: 'findings', path: '/findings', title: 'Findings' },
  { name: 'drills', path: '/drills', title: 'Drills' },
  { name: 'integrity', path: '/integrity', title: 'Integrity' },
  { name: 'survival', path: '/survival', title: 'Survival' },
  { name: 'criteria', path: '/criteria', title: 'Criteria' },
  { name: 'feeds', path: '/feeds', title: 'Feeds' },
  { name: 'evidence', path: '/evidence', title: 'Evidence' },
] as const

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', redirect: '/board' },
    { path: '/board', name: 'board', component: () => import('./proof/BoardView.vue') },
    {
      path: '/findings',
      name: 'findings',
      component: () => import('./findings/FindingsView.vue'),
    },
    {
      path: '/criteria',
      name: 'criteria',
      component: () => import('./criteria/CriteriaView.vue'),
    },
    {
      path: '/insights',
      name: 'insights',
      component: () => import('./insights/InsightsView.vue'),
    },
    { path: '/drills', name: 'drills', component: () => import('./drills/DrillsView.vue') },
    {
      path: '/integrity',
      name: 'integrity',
      component: () => import('./integrity/IntegrityView.vue'),
    },
    { path: '/survival', name: 'survival', component: () => import('./survival/SurvivalView.vue') },
    {
      path: '/survival/going-back',
      name: 'going-back',
      component: () => import('./survival/GoingBackView.vue'),
    },
    { path: '/engines', name: 'engines', component: () => import('./drills/EnginesView.vue') },
    { path: '/feeds', name: 'feeds', component: () => import('./feeds/FeedsView.vue') },
    {
      path: '/feeds/stores',
      name: 'stores',
      component: () => import('./stores/StoresView.vue'),
    },
    { path: '/evidence', name: 'evidence', component: () => import('./evidence/EvidenceView.vue') },
    { path: '/alerts', name: 'alerts', component: () => import('./alerts/AlertsView.vue') },
    { path: '/people', name: 'people', component: () => import('./people/PeopleView.vue') },
    {
      path: '/set-password',
      name: 'set-password',
      component: () => import('./people/SetPasswordView.vue'),
    },
    { path: '/sign-in', name: 'sign-in', component: () => import('./people/SignInView.vue') },
  ],
})

/** The section that a page belongs to. */
export const sectionOf = (path: string) => sections.find((s) => path.startsWith(s.path))

router.afterEach((to) => {
  const section = sectionOf(to.path)
  document.title = section ? `${section.title} · Hard Proof` : 'Hard Proof'
})
