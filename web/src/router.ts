import { createRouter, createWebHistory } from 'vue-router'

declare module 'vue-router' {
  interface RouteMeta {
    /** Whose page it is; left out: everybody's who works here. */
    needs?: 'client' | 'lead' | 'owner'
    /** It is shown to whoever has its address. */
    open?: boolean
  }
}

const roomFor = async (top: number) => {
  const there = () => document.documentElement.scrollHeight >= top + window.innerHeight
  for (let i = 0; i < 30 && !there(); i++) await new Promise((r) => setTimeout(r, 100))
}

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', redirect: '/today' },
    { path: '/today', name: 'today', component: () => import('@/views/TodayView.vue') },
    { path: '/trees', name: 'trees', component: () => import('@/views/TreesView.vue') },
    {
      path: '/trees/file',
      name: 'trees-file',
      meta: { needs: 'lead' },
      component: () => import('@/views/TreesFileView.vue'),
    },
    {
      path: '/trees/new',
      name: 'tree-new',
      meta: { needs: 'lead' },
      component: () => import('@/views/TreeFormView.vue'),
    },
    {
      path: '/trees/:id/edit',
      name: 'tree-edit',
      meta: { needs: 'lead' },
      component: () => import('@/views/TreeFormView.vue'),
      props: true,
    },
    {
      path: '/trees/:id',
      component: () => import('@/views/TreeView.vue'),
      props: true,
      children: [
        { path: '', redirect: (to) => ({ name: 'tree-water', params: to.params }) },
        { path: 'planting', name: 'tree-planting', component: () => import('@/views/PlantingPage.vue'), props: true },
        { path: 'water', name: 'tree-water', component: () => import('@/views/WaterPage.vue'), props: true },
        { path: 'drip', name: 'tree-drip', component: () => import('@/views/DripPage.vue'), props: true },
        { path: 'mulch', name: 'tree-mulch', component: () => import('@/views/MulchPage.vue'), props: true },
        { path: 'checks', name: 'tree-checks', component: () => import('@/views/ChecksPage.vue'), props: true },
        { path: 'history', name: 'tree-history', component: () => import('@/views/HistoryPage.vue'), props: true },
      ],
    },
    { path: '/sites', name: 'sites', component: () => import('@/views/SitesView.vue') },
    {
      path: '/sites/new',
      name: 'site-new',
      meta: { needs: 'lead' },
      component: () => import('@/views/SiteFormView.vue'),
    },
    {
      path: '/sites/:id/edit',
      name: 'site-edit',
      meta: { needs: 'lead' },
      component: () => import('@/views/SiteFormView.vue'),
      props: true,
    },
    { path: '/sites/:id', name: 'site', component: () => import('@/views/SiteView.vue'), props: true },
    { path: '/sites/:id/ground', name: 'ground', component: () => import('@/views/GroundView.vue'), props: true },
    {
      path: '/sites/:id/soil/:kind(crumble|clump|jar|ribbon|percentages|drain_hole|infiltration|hardpan)',
      name: 'soil-test',
      component: () => import('@/views/SoilTestView.vue'),
      props: true,
    },
    {
      path: '/plantings/new',
      name: 'planting-new',
      meta: { needs: 'lead' },
      component: () => import('@/views/PlantingFormView.vue'),
    },
    {
      path: '/plantings/:id/edit',
      name: 'planting-edit',
      meta: { needs: 'lead' },
      component: () => import('@/views/PlantingFormView.vue'),
      props: true,
    },
    { path: '/plantings/:id', name: 'planting', component: () => import('@/views/PlantingView.vue'), props: true },
    {
      path: '/ahead',
      name: 'ahead',
      component: () => import('@/views/AheadView.vue'),
      redirect: { name: 'fortnight' },
      children: [
        { path: 'water', name: 'fortnight', component: () => import('@/views/FortnightView.vue') },
        { path: 'drought', name: 'drought', component: () => import('@/views/DroughtView.vue') },
        { path: 'plant', name: 'plant-ahead', component: () => import('@/views/PlantAheadView.vue') },
        { path: 'savings', name: 'savings', component: () => import('@/views/SavingsView.vue') },
        { path: 'work', name: 'care', component: () => import('@/views/CareView.vue') },
        { path: 'load', name: 'order', component: () => import('@/views/OrderView.vue') },
      ],
    },
    {
      path: '/ahead/orders/new',
      name: 'restriction-new',
      meta: { needs: 'lead' },
      component: () => import('@/views/RestrictionFormView.vue'),
    },
    {
      path: '/ahead/orders/:id/edit',
      name: 'restriction-edit',
      meta: { needs: 'lead' },
      component: () => import('@/views/RestrictionFormView.vue'),
      props: true,
    },
    { path: '/crews', name: 'crews', component: () => import('@/views/CrewsView.vue') },
    {
      path: '/crews/new',
      name: 'crew-new',
      meta: { needs: 'lead' },
      component: () => import('@/views/CrewFormView.vue'),
    },
    {
      path: '/crews/:id/edit',
      name: 'crew-edit',
      meta: { needs: 'lead' },
      component: () => import('@/views/CrewFormView.vue'),
      props: true,
    },
    { path: '/order', redirect: (to) => ({ name: 'order', query: to.query }) },
    { path: '/care', redirect: (to) => ({ name: 'care', query: to.query }) },
    { path: '/people', name: 'people', component: () => import('@/views/PeopleView.vue') },
    { path: '/copy', name: 'copy', meta: { needs: 'owner' }, component: () => import('@/views/CopyView.vue') },
    { path: '/lines/:id', name: 'line', component: () => import('@/views/LineView.vue'), props: true },
    { path: '/plants', name: 'plants', component: () => import('@/views/PlantsView.vue') },
    {
      path: '/plants/new',
      name: 'plant-new',
      meta: { needs: 'lead' },
      component: () => import('@/views/PlantFormView.vue'),
    },
    {
      path: '/plants/:id/edit',
      name: 'plant-edit',
      meta: { needs: 'lead' },
      component: () => import('@/views/PlantFormView.vue'),
      props: true,
    },
    { path: '/weather', name: 'weather', component: () => import('@/views/WeatherView.vue') },
    {
      path: '/weather/stations/new',
      name: 'station-new',
      meta: { needs: 'lead' },
      component: () => import('@/views/StationFormView.vue'),
    },
    {
      path: '/weather/stations/:id/edit',
      name: 'station-edit',
      meta: { needs: 'lead' },
      component: () => import('@/views/StationFormView.vue'),
      props: true,
    },
    {
      path: '/book',
      component: () => import('@/views/BookView.vue'),
      children: [
        { path: '', name: 'book', component: () => import('@/views/BookEntriesView.vue') },
        { path: 'numbers', name: 'book-numbers', component: () => import('@/views/BookNumbersView.vue') },
        { path: 'sheet', name: 'book-sheet', component: () => import('@/views/BookSheetView.vue') },
        { path: 'month', name: 'book-month', component: () => import('@/views/BookMonthView.vue') },
      ],
    },
    { path: '/rehearse', name: 'rehearse', component: () => import('@/views/RehearseView.vue') },
    { path: '/walk', name: 'walk', component: () => import('@/views/WalkView.vue') },
    { path: '/waiting', name: 'waiting', component: () => import('@/views/WaitingView.vue') },
    {
      path: '/shared',
      name: 'shared',
      meta: { needs: 'client' },
      component: () => import('@/views/SharedListView.vue'),
    },
    {
      path: '/shared/:secret',
      name: 'shared-site',
      meta: { needs: 'client', open: true },
      component: () => import('@/views/SharedView.vue'),
      props: true,
    },
    { path: '/more', name: 'more', component: () => import('@/views/MoreView.vue') },
    { path: '/:rest(.*)*', name: 'missing', component: () => import('@/views/MissingView.vue') },
  ],
  scrollBehavior: async (to, from, saved) => {
    if (saved) {
      await roomFor(saved.top) // a list comes with an answer of the server
      return saved
    }
    if (to.hash) {
      // what the hash names may come with an answer of the server
      for (let i = 0; i < 20 && !document.querySelector(to.hash); i++) await new Promise((r) => setTimeout(r, 100))
      return document.querySelector(to.hash) ? { el: to.hash, top: 16 } : { top: 0 }
    }
    return to.path === from.path ? undefined : { top: 0 }
  },
})
