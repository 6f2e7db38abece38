import { createRouter, createWebHistory } from 'vue-router'
import { type Place, places } from './place'

const views: Record<Place, () => Promise<unknown>> = {
  arrivals: () => import('./places/arrivals/Arrivals.vue'),
  yard: () => import('./places/yard/Yard.vue'),
  timelines: () => import('./places/timelines/Timelines.vue'),
  dispatch: () => import('./places/dispatch/Dispatch.vue'),
}

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'start', component: () => import('./places/start/Start.vue') },
    { path: '/new', name: 'new', component: () => import('./places/start/NewProject.vue') },
    { path: '/habits', name: 'habits', component: () => import('./places/start/PreferencesPage.vue') },
    {
      path: '/p/:id',
      component: () => import('./OpenProject.vue'),
      children: [
        { path: '', redirect: { name: 'arrivals' } },
        {
          path: 'inspection',
          name: 'inspection',
          component: () => import('./places/arrivals/InspectionSheet.vue'),
        },
        { path: 'log', name: 'log', component: () => import('./places/yard/LogSheet.vue') },
        {
          path: 'report',
          name: 'report',
          component: () => import('./places/dispatch/ReportSheet.vue'),
        },
        ...places.map((place) => ({ path: place, name: place, component: views[place] as never })),
      ],
    },
    { path: '/:rest(.*)*', redirect: '/' },
  ],
})
