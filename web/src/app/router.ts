import { createRouter, createWebHistory, type RouteRecordRaw } from 'vue-router'
import { useSession } from '../api/session-store.ts'
import { BENCHES } from './benches.ts'

const routes: RouteRecordRaw[] = [
  {
    path: '/sign-in',
    name: 'sign-in',
    component: () => import('../features/session/SignInPage.vue'),
    meta: { open: true, title: 'Sign in' },
  },
  { path: '/', redirect: '/loops' },
  {
    path: '/loops',
    name: 'loops',
    component: () => import('../features/loops/LoopsPage.vue'),
    meta: { title: 'Loops' },
  },
  {
    path: '/loops/import',
    name: 'import',
    component: () => import('../features/loop-list/ImportPage.vue'),
    meta: { title: 'Import a loop list' },
  },
  {
    path: '/loops/:tag',
    component: () => import('./LoopPage.vue'),
    props: true,
    children: [
      { path: '', name: 'loop', redirect: (to) => ({ name: 'scale', params: to.params }) },
      ...BENCHES.map((b) => ({ path: b.id, name: b.id, component: b.component, meta: { bench: b.id } })),
    ],
  },
  {
    path: '/quick-sums/:name?',
    name: 'quick-sums',
    component: () => import('../features/quick-sums/QuickSumsPage.vue'),
    props: true,
    meta: { title: 'Quick sums' },
  },
  {
    path: '/equipment',
    name: 'equipment',
    component: () => import('../features/equipment/EquipmentPage.vue'),
    meta: { title: 'Equipment' },
  },
  {
    path: '/drift',
    name: 'drift',
    component: () => import('../features/drift/DriftPage.vue'),
    meta: { title: 'Drift' },
  },
  {
    path: '/about',
    name: 'about',
    component: () => import('../features/about/AboutPage.vue'),
    meta: { title: 'About' },
  },
  {
    path: '/:rest(.*)*',
    name: 'nowhere',
    component: () => import('./NowherePage.vue'),
    meta: { title: 'Not here' },
  },
]

export const router = createRouter({ history: createWebHistory(), routes })

router.beforeEach(async (to) => {
  const session = useSession()
  if (!session.known) await session.look().catch(() => undefined)
  if (to.meta['open'] !== true && !session.person) return { name: 'sign-in', query: { next: to.fullPath } }
  return true
})

router.afterEach((to) => {
  const title = typeof to.meta['title'] === 'string' ? to.meta['title'] : to.params['tag']
  document.title = title ? `${String(title)} · Calm Loop` : 'Calm Loop'
})
