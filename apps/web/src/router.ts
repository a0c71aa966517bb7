// Addresses of the places; each is loaded when first visited.
import { createRouter, type RouteRecordRaw, type Router, type RouterHistory } from 'vue-router'
import { useSession } from './stores/session.ts'

const routes: RouteRecordRaw[] = [
  { path: '/', redirect: '/round' },
  { path: '/weeks', component: () => import('./places/weeks/WeeksPlace.vue'), meta: { title: 'Weeks ahead' } },
  { path: '/shift', component: () => import('./places/shift/ShiftPlace.vue'), meta: { title: 'The shift' } },
  { path: '/round', component: () => import('./places/round/RoundPlace.vue'), meta: { title: 'Round' } },
  {
    path: '/sign-in',
    component: () => import('./places/sign-in/SignIn.vue'),
    meta: { open: true, title: 'Sign in' },
  },
  { path: '/loops', component: () => import('./places/loops/LoopRegister.vue'), meta: { title: 'Loops' } },
  { path: '/many', component: () => import('./places/loops/ManyLoops.vue'), meta: { title: 'Many loops at once' } },
  {
    path: '/bring-in',
    component: () => import('./places/intake/IntakePlace.vue'),
    meta: { title: 'Bring the plant in' },
  },
  { path: '/loops/new', component: () => import('./places/loops/NewLoop.vue'), meta: { title: 'New loop' } },
  {
    path: '/loops/:loopId/:stage?',
    component: () => import('./places/folder/LoopFolder.vue'),
    meta: { title: 'Loop' },
  },
  { path: '/watch', component: () => import('./places/watch/WatchPoints.vue'), meta: { title: 'Watch' } },
  { path: '/link/:portId?', component: () => import('./places/link/LinkPlace.vue'), meta: { title: 'Link' } },
  { path: '/scan', component: () => import('./places/scan/ScanPlace.vue'), meta: { title: 'Scan a label' } },
  { path: '/kit', component: () => import('./places/kit/KitList.vue'), meta: { title: 'Kit' } },
  {
    path: '/settings',
    component: () => import('./places/settings/SettingsPlace.vue'),
    meta: { title: 'Settings of the site' },
  },
  { path: '/tables', component: () => import('./places/tables/TablesPlace.vue'), meta: { title: 'Tables' } },
  { path: '/people', component: () => import('./places/people/PeopleList.vue'), meta: { title: 'People' } },
  { path: '/audit', component: () => import('./places/audit/AuditTrail.vue'), meta: { title: 'Audit trail' } },
  {
    path: '/verify',
    component: () => import('./places/verify/VerifyFingerprint.vue'),
    meta: { open: true, title: 'Verify a certificate' },
  },
  {
    path: '/interface',
    component: () => import('./places/guide/InterfaceGuide.vue'),
    meta: { open: true, title: 'HTTP interface' },
  },
  { path: '/guide', component: () => import('./places/guide/GuidePlace.vue'), meta: { open: true, title: 'Guide' } },
  { path: '/:lost(.*)*', component: () => import('./places/loops/LostPage.vue'), meta: { title: 'Not here' } },
]

/** The places, reached by this history. Who is not signed in is led to the sign-in, and back from there. */
export function openRouter(history: RouterHistory): Router {
  const router = createRouter({
    history,
    routes,
    scrollBehavior: (to, from) => (to.path.split('/')[2] === from.path.split('/')[2] ? undefined : { top: 0 }),
  })
  router.beforeEach(async (to) => {
    const session = useSession()
    await session.load().catch(() => undefined)
    if (!to.meta['open'] && !session.person)
      return { path: '/sign-in', query: to.fullPath === '/round' ? {} : { to: to.fullPath } }
    if (to.path === '/sign-in' && session.person) return '/round'
    document.title = `${to.meta['title'] as string} · Calm Loop`
    return true
  })
  return router
}
