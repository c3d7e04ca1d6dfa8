import { createRouter, createWebHistory, type RouteLocationNormalized } from 'vue-router';
import { home } from './shell/home.ts';
import { useSession } from './session/session.ts';

/** Every view is loaded when it is first opened. */
export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'start', component: () => import('./features/start/StartPage.vue') },
    {
      path: '/class/:classId/today',
      name: 'today',
      component: () => import('./features/today/TodayPage.vue'),
      props: true,
    },
    {
      path: '/class/:classId/day',
      name: 'day',
      component: () => import('./features/day/DayPage.vue'),
      props: true,
    },
    {
      path: '/class/:classId/sheet/:attemptId',
      name: 'sheet',
      component: () => import('./features/sheet/SheetPage.vue'),
      props: true,
    },
    {
      path: '/class/:classId/sheet/:attemptId/amend',
      name: 'amend',
      component: () => import('./features/sheet/amend/AmendPage.vue'),
      props: true,
    },
    {
      path: '/class/:classId/faces',
      name: 'faces',
      component: () => import('./features/faces/FacesPage.vue'),
      props: true,
    },
    {
      path: '/class/:classId/links',
      name: 'links',
      component: () => import('./features/links/LinksPage.vue'),
      props: true,
    },
    {
      path: '/class/:classId/insight',
      name: 'insight',
      component: () => import('./features/insight/InsightPage.vue'),
      props: true,
    },
    {
      path: '/class/:classId/insight/:traineeId/:skill',
      name: 'evidence',
      component: () => import('./features/insight/needs/EvidencePage.vue'),
      props: true,
    },
    {
      path: '/class/:classId/retraining',
      name: 'retraining',
      component: () => import('./features/retraining/RetrainingPage.vue'),
      props: true,
    },
    {
      path: '/class/:classId/records',
      name: 'records',
      component: () => import('./features/records/RecordsPage.vue'),
      props: true,
    },
    {
      path: '/class/:classId/reports',
      name: 'reports',
      component: () => import('./features/reports/ReportsPage.vue'),
      props: true,
    },
    {
      path: '/class/:classId/setup',
      name: 'setup',
      component: () => import('./features/setup/ClassPage.vue'),
      props: true,
    },
    {
      path: '/class/:classId/methods/:versionId',
      name: 'method',
      component: () => import('./features/methods/MethodPage.vue'),
      props: true,
    },
    {
      path: '/class/:classId/methods/:versionId/compare',
      name: 'compare-methods',
      component: () => import('./features/methods/compare/ComparePage.vue'),
      props: true,
    },
    {
      path: '/class/:classId/drafts/:draftId',
      name: 'draft',
      component: () => import('./features/methods/editor/EditorPage.vue'),
      props: true,
    },
    {
      path: '/class/:classId/safekeeping',
      name: 'safekeeping',
      component: () => import('./features/safekeeping/SafekeepingPage.vue'),
      props: true,
    },
    {
      path: '/verify/:code?',
      name: 'verify',
      component: () => import('./features/reports/VerifyPage.vue'),
      props: true,
    },
    { path: '/join', name: 'join', component: () => import('./features/accounts/JoinPage.vue') },
    { path: '/account', name: 'account', component: () => import('./features/accounts/AccountPage.vue') },
    { path: '/accounts', name: 'accounts', component: () => import('./features/accounts/AccountsPage.vue') },
    { path: '/classes', name: 'classes', component: () => import('./features/setup/ClassesPage.vue') },
    {
      path: '/calls/:seriesId',
      name: 'calls',
      component: () => import('./features/faces/calls/CallRunPage.vue'),
      props: true,
    },
    {
      path: '/trace-series/:seriesId',
      name: 'trace-run',
      component: () => import('./features/links/traces/series/TraceRunPage.vue'),
      props: true,
    },
    { path: '/me', name: 'me', component: () => import('./features/records/OwnRecordPage.vue') },
    {
      path: '/me/sheet/:attemptId',
      name: 'own-sheet',
      component: () => import('./features/sheet/SheetPage.vue'),
      props: (to: RouteLocationNormalized) => ({ attemptId: to.params['attemptId'], classId: '' }),
    },
    { path: '/:rest(.*)', redirect: '/' },
  ],
});

/** What is open to anybody. */
const OPEN_PAGES: ReadonlySet<unknown> = new Set(['join', 'verify']);
/** What is open to a trainee. */
const OWN_PAGES: ReadonlySet<unknown> = new Set(['me', 'own-sheet', 'calls', 'trace-run', 'account']);

/** Pages scroll inside the main part, so that the bar stays: a new page begins at its top. */
router.afterEach((to, from) => {
  if (to.path !== from.path) document.getElementById('main')?.scrollTo(0, 0);
});

router.beforeEach(async (to) => {
  const session = useSession();
  if (session.start === null) {
    try {
      await session.refresh();
    } catch {
      return to.name === 'start' ? true : { name: 'start', query: { to: to.fullPath } };
    }
  }
  if (OPEN_PAGES.has(to.name)) return true;
  if (to.name === 'start') return session.me ? home(session) : true;
  if (!session.me) return { name: 'start', query: { to: to.fullPath } };
  if (session.start?.needsSecondFactor) return to.name === 'account' ? true : { name: 'account' };
  if (to.name === 'accounts' && session.me.role !== 'lead') return home(session);
  return session.teaches || OWN_PAGES.has(to.name) ? true : { name: 'me' };
});
