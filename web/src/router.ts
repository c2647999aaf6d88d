import { createRouter, createWebHistory } from 'vue-router'
import { home, loadSession, type Right } from './contract/session'

declare module 'vue-router' {
  interface RouteMeta {
    /** Which right opens the place; none is needed where it is left out. */
    right?: Right
    /** Without the frame: sign-in and the student's side. */
    bare?: boolean
    /** An assessment that staff try as a student would. */
    trial?: boolean
    /** A student's own assessment once more, of which nothing is kept. */
    practice?: boolean
    /** For whoever holds a link, signed in or not. */
    open?: boolean
    title: string
  }
}

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', redirect: '/today' },
    {
      path: '/stand-in',
      component: () => import('./places/signin/StandIn.vue'),
      meta: { title: 'Substitute', bare: true, open: true },
    },
    { path: '/signin', component: () => import('./places/signin/SignIn.vue'), meta: { title: 'Sign in', bare: true } },
    { path: '/today', component: () => import('./places/today/Today.vue'), meta: { title: 'Today', right: 'staff' } },
    { path: '/bank', component: () => import('./places/bank/Bank.vue'), meta: { title: 'Bank', right: 'readKeys' } },
    {
      path: '/bank/items/:id(\\d+)',
      component: () => import('./places/bank/item/ItemPage.vue'),
      meta: { title: 'Bank', right: 'readKeys' },
    },
    {
      path: '/bank/twins/:id(\\d+)',
      component: () => import('./places/bank/twins/ImportTwins.vue'),
      meta: { title: 'Bank', right: 'import' },
    },
    {
      path: '/bank/banks',
      component: () => import('./places/bank/banks/Banks.vue'),
      meta: { title: 'Bank', right: 'readKeys' },
    },
    {
      path: '/bank/passages',
      component: () => import('./places/bank/passages/Passages.vue'),
      meta: { title: 'Bank', right: 'readKeys' },
    },
    {
      path: '/bank/passages/:id(\\d+|new)',
      component: () => import('./places/bank/passages/Passage.vue'),
      meta: { title: 'Bank', right: 'readKeys' },
    },
    {
      path: '/bank/shelf',
      component: () => import('./places/bank/shelf/Shelf.vue'),
      meta: { title: 'Bank', right: 'build' },
    },
    {
      path: '/bank/standards',
      component: () => import('./places/bank/standards/Standards.vue'),
      meta: { title: 'Bank', right: 'build' },
    },
    { path: '/bank/tags', component: () => import('./places/bank/Tags.vue'), meta: { title: 'Bank', right: 'readKeys' } },
    {
      path: '/bank/write/:id(\\d+)',
      component: () => import('./places/write/Write.vue'),
      meta: { title: 'Bank', right: 'build' },
    },
    {
      path: '/assessments',
      component: () => import('@/places/assessments/list/Assessments.vue'),
      meta: { title: 'Assessments', right: 'readKeys' },
    },
    {
      path: '/assessments/:id(\\d+)/room-sheets',
      component: () => import('@/places/assessments/supports/RoomSheets.vue'),
      meta: { title: 'Room sheets', right: 'readSupports', bare: true },
    },
    {
      path: '/assessments/:id(\\d+)/:part(outline|blueprint|lines|key|cuts|settings|supports|distribution|rooms)?',
      component: () => import('@/places/assessments/sheet/Sheet.vue'),
      meta: { title: 'Assessments', right: 'readKeys' },
    },
    {
      path: '/assessments/:id(\\d+)/try',
      component: () => import('./player/Take.vue'),
      meta: { title: 'Try it', right: 'readKeys', bare: true, trial: true },
    },
    {
      path: '/assessments/:id(\\d+)/print',
      component: () => import('./places/assessments/print/Print.vue'),
      meta: { title: 'Print', right: 'readKeys', bare: true },
    },
    {
      path: '/assessments/defaults',
      component: () => import('@/places/settings/Defaults.vue'),
      meta: { title: 'Assessments', right: 'build' },
    },
    {
      path: '/shared',
      component: () => import('@/places/assessments/list/FollowLink.vue'),
      meta: { title: 'Assessments', right: 'readKeys' },
    },
    { path: '/calendar', component: () => import('./places/calendar/Calendar.vue'), meta: { title: 'Calendar', right: 'staff' } },
    {
      path: '/assessments/:id(\\d+)/progress',
      component: () => import('./places/progress/Progress.vue'),
      meta: { title: 'Assessments', right: 'staff' },
    },
    {
      path: '/bands/official/:id(\\d+)?',
      component: () => import('./places/bands/official/Official.vue'),
      meta: { title: 'Bands', right: 'build' },
    },
    {
      path: '/bands/panels',
      component: () => import('./places/panels/Panels.vue'),
      meta: { title: 'Bands', right: 'staff' },
    },
    {
      path: '/bands/panels/:id(\\d+)',
      component: () => import('./places/panels/Chair.vue'),
      meta: { title: 'Bands', right: 'build' },
    },
    {
      path: '/panels/:id(\\d+)',
      component: () => import('./places/panels/Judge.vue'),
      meta: { title: 'Panels', right: 'staff' },
    },
    { path: '/bands', component: () => import('./places/bands/Bands.vue'), meta: { title: 'Bands', right: 'build' } },
    { path: '/results', component: () => import('./places/results/Results.vue'), meta: { title: 'Results', right: 'readKeys' } },
    {
      path: '/results/:id(\\d+)/:view(bands|matrix)?',
      component: () => import('./places/results/Result.vue'),
      meta: { title: 'Results', right: 'readKeys' },
    },
    { path: '/rosters', component: () => import('./places/rosters/Rosters.vue'), meta: { title: 'Rosters', right: 'staff' } },
    {
      path: '/rosters/supports',
      component: () => import('./places/rosters/supports/Ahead.vue'),
      meta: { title: 'Rosters', right: 'staff' },
    },
    { path: '/ledger', component: () => import('./places/ledger/Ledger.vue'), meta: { title: 'Ledger', right: 'readLedger' } },
    {
      path: '/ledger/paper',
      component: () => import('./places/ledger/Anchor.vue'),
      meta: { title: 'The ledger on paper', right: 'readLedger', bare: true },
    },
    { path: '/rooms/:id(\\d+)', component: () => import('./places/rooms/Room.vue'), meta: { title: 'Rooms', right: 'staff' } },
    {
      path: '/rooms/:id(\\d+)/record/:student(\\d+)',
      component: () => import('./places/rooms/Record.vue'),
      meta: { title: 'Rooms', right: 'staff' },
    },
    {
      path: '/rooms/:id(\\d+)/child',
      component: () => import('./places/rooms/Child.vue'),
      meta: { title: 'Picture', right: 'staff', bare: true },
    },
    {
      path: '/desk',
      component: () => import('./player/Home.vue'),
      meta: { title: 'My assessments', right: 'student', bare: true },
    },
    {
      path: '/desk/:id(\\d+)/practice',
      component: () => import('./player/Take.vue'),
      meta: { title: 'My assessments', bare: true, practice: true },
    },
    {
      path: '/desk/:id(\\d+)',
      component: () => import('./player/Take.vue'),
      meta: { title: 'Assessment', right: 'student', bare: true },
    },
    { path: '/:rest(.*)', component: () => import('./parts/NotHere.vue'), meta: { title: 'Not here' } },
  ],
})

router.beforeEach(async (to) => {
  const session = await loadSession()
  if (to.path === '/signin') return session.signedIn ? home(session) : true
  if (to.meta.open) return true
  if (!session.signedIn) return { path: '/signin', query: to.fullPath === '/today' ? {} : { next: to.fullPath } }
  if (to.meta.right && !session.rights.includes(to.meta.right)) return home(session)
  return true
})

router.afterEach((to) => {
  document.title = `${to.meta.title} · Pine Ledger`
})
