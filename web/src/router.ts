import { createRouter, createWebHistory } from 'vue-router'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', redirect: '/today' },
    { path: '/today', name: 'today', component: () => import('@/views/TodayView.vue') },
    { path: '/trees', name: 'trees', component: () => import('@/views/TreesView.vue') },
    { path: '/trees/file', name: 'trees-file', component: () => import('@/views/TreesFileView.vue') },
    { path: '/trees/new', name: 'tree-new', component: () => import('@/views/TreeFormView.vue') },
    { path: '/trees/:id/edit', name: 'tree-edit', component: () => import('@/views/TreeFormView.vue'), props: true },
    {
      path: '/trees/:id',
      component: () => import('@/views/TreeSheetView.vue'),
      props: true,
      children: [
        { path: '', redirect: (to) => ({ name: 'tree-water', params: to.params }) },
        { path: 'water', name: 'tree-water', component: () => import('@/views/WaterPage.vue'), props: true },
        { path: 'mulch', name: 'tree-mulch', component: () => import('@/views/MulchPage.vue'), props: true },
      ],
    },
    { path: '/sites', name: 'sites', component: () => import('@/views/SitesView.vue') },
    { path: '/sites/new', name: 'site-new', component: () => import('@/views/SiteFormView.vue') },
    { path: '/sites/:id/edit', name: 'site-edit', component: () => import('@/views/SiteFormView.vue'), props: true },
    { path: '/weather', name: 'weather', component: () => import('@/views/WeatherView.vue') },
    { path: '/weather/stations/new', name: 'station-new', component: () => import('@/views/StationFormView.vue') },
    {
      path: '/weather/stations/:id/edit',
      name: 'station-edit',
      component: () => import('@/views/StationFormView.vue'),
      props: true,
    },
    { path: '/more', name: 'more', component: () => import('@/views/MoreView.vue') },
    { path: '/:rest(.*)*', redirect: '/today' },
  ],
  scrollBehavior: (to, from, saved) => saved ?? (to.path === from.path ? undefined : { top: 0 }),
})
