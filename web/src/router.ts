import { createRouter, createWebHistory } from 'vue-router'
import { base } from './base'
import { firstPage } from './composables/first'
import JobList from './pages/JobList.vue'
import { newVersion, quiet, takeNewVersion } from './kept/version'

export const stages = ['survey', 'design', 'clearances', 'plan', 'install', 'commission', 'handover'] as const
export type StageName = (typeof stages)[number]
export const stageTitle = (s: string) => s.charAt(0).toUpperCase() + s.slice(1)

const pages = {
  survey: () => import('./features/survey/SurveyStage.vue'),
  design: () => import('./features/design/DesignStage.vue'),
  clearances: () => import('./features/clearances/ClearancesStage.vue'),
  plan: () => import('./features/plan/PlanStage.vue'),
  install: () => import('./features/install/InstallStage.vue'),
  commission: () => import('./features/commission/CommissionStage.vue'),
  handover: () => import('./features/handover/HandoverStage.vue'),
}

export const router = createRouter({
  history: createWebHistory(`${base}/`),
  routes: [
    { path: '/', redirect: firstPage },
    { path: '/today', component: () => import('./pages/MyDayPage.vue') },
    { path: '/sign-in', component: () => import('./pages/SignIn.vue') },
    { path: '/setup', component: () => import('./pages/SetUp.vue') },
    // The page that is opened most comes with the program: on a slow line each file more is seconds more.
    { path: '/jobs', component: JobList },
    { path: '/jobs/new', component: () => import('./pages/NewJob.vue') },
    { path: '/link', component: () => import('./pages/LinkPage.vue') },
    { path: '/account', component: () => import('./pages/AccountPage.vue') },
    { path: '/audit', component: () => import('./pages/AuditPage.vue') },
    { path: '/firm', component: () => import('./pages/FirmPage.vue') },
    { path: '/days', component: () => import('./pages/DaysPage.vue') },
    { path: '/due', component: () => import('./pages/DuePage.vue') },
    { path: '/stock', component: () => import('./pages/StockPage.vue') },
    { path: '/practice', component: () => import('./pages/PracticePage.vue') },
    { path: '/kept', component: () => import('./pages/KeptPage.vue') },
    { path: '/verify', component: () => import('./pages/VerifyPage.vue') },
    { path: '/open/:token', component: () => import('./pages/OpenPage.vue'), props: true },
    { path: '/kit', component: () => import('./pages/KitPage.vue') },
    { path: '/jobs/:job/sheet', redirect: (to) => `/jobs/${to.params.job as string}/day-sheet` },
    { path: '/jobs/:job/day-sheet', component: () => import('./pages/DaySheetPage.vue'), props: true },
    {
      path: '/jobs/:job',
      component: () => import('./pages/JobFrame.vue'),
      props: true,
      children: [
        { path: '', name: 'job', redirect: (to) => `/jobs/${String(to.params.job)}/survey` },
        ...stages.map((s) => ({ path: s, component: pages[s] })),
      ],
    },
    { path: '/:rest(.*)*', component: () => import('./pages/NotFound.vue') },
  ],
  scrollBehavior: (to, from) => (to.path === from.path ? undefined : { top: 0 }),
})

// A newer version is taken between two pages, when nothing is under way.
router.beforeEach((to, from) => {
  if (!newVersion.value || !from.matched.length || !quiet()) return true
  takeNewVersion(to.fullPath)
  return false
})
