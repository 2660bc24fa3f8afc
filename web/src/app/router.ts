import { createRouter, createWebHistory, type RouteLocationNormalized, type RouteRecordRaw } from 'vue-router'
import { useSession } from '../api/session-store.ts'
import { noteIfStale } from '../ui/stale-page.ts'
import { BENCHES } from './benches.ts'

const routes: RouteRecordRaw[] = [
  {
    path: '/sign-in',
    name: 'sign-in',
    component: () => import('../features/session/SignInPage.vue'),
    meta: { open: true, title: 'Sign in' },
  },
  {
    path: '/join/:token',
    name: 'join',
    component: () => import('../features/session/JoinPage.vue'),
    props: true,
    meta: { open: true, title: 'Set a password' },
  },
  {
    path: '/account',
    name: 'account',
    component: () => import('../features/session/AccountPage.vue'),
    meta: { title: 'Your account' },
  },
  {
    path: '/plant',
    name: 'plant',
    component: () => import('../features/plant/PlantPage.vue'),
    meta: { title: 'Plant' },
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
    path: '/instruments',
    name: 'instruments',
    component: () => import('../features/equipment/EquipmentPage.vue'),
    meta: { title: 'Instruments and sensors' },
  },
  {
    path: '/help/:topic?',
    name: 'help',
    component: () => import('../features/help/HelpPage.vue'),
    props: true,
    meta: { title: 'Help' },
  },
  {
    path: '/drift',
    name: 'drift',
    component: () => import('../features/drift/DriftPage.vue'),
    meta: { title: 'Drift' },
  },
  {
    path: '/today',
    name: 'today',
    component: () => import('../features/today/TodayPage.vue'),
    meta: { title: 'Today' },
  },
  {
    path: '/logs',
    name: 'logs',
    component: () => import('../features/logs/LogsPage.vue'),
    meta: { title: 'Logs' },
  },
  {
    path: '/logs/read-in',
    name: 'read-in',
    component: () => import('../features/logs/ReadInPage.vue'),
    meta: { title: 'Read in a log' },
  },
  {
    path: '/logs/record',
    name: 'record-log',
    component: () => import('../features/logs/RecordPage.vue'),
    meta: { title: 'Record a log' },
  },
  {
    path: '/logs/:tag/:id',
    name: 'log',
    component: () => import('../features/logs/LogPage.vue'),
    props: true,
    meta: { title: 'Log' },
  },
  {
    path: '/surveys',
    name: 'surveys',
    component: () => import('../features/surveys/SurveysPage.vue'),
    meta: { title: 'Surveys' },
  },
  {
    path: '/surveys/:survey',
    name: 'survey',
    component: () => import('../features/surveys/SurveyPage.vue'),
    props: true,
    meta: { title: 'Survey' },
  },
  {
    path: '/surveys/:survey/:tag/:site',
    name: 'site',
    component: () => import('../features/surveys/SitePage.vue'),
    props: true,
    meta: { title: 'Site' },
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

/** A bench is named with its loop: six tabs of one browser are told apart. */
function titleOf(to: RouteLocationNormalized): string {
  const { title } = to.meta
  if (typeof title === 'string') return title
  const bench = BENCHES.find((b) => b.id === to.name)?.title
  return [bench, to.params['tag']].filter(Boolean).join(' ')
}

// A bench whose script cannot be fetched would be a dead click.
router.onError((error: unknown) => {
  noteIfStale(error)
})

router.afterEach((to) => {
  document.title = [titleOf(to), 'Calm Loop'].filter(Boolean).join(' · ')
})
