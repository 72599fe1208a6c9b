import { createRouter, createWebHistory } from 'vue-router'
import { fieldsRead } from '@/composables/usePendingFields'
import { useHouse } from '@/composables/useHouse'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/sign-in', name: 'sign-in', component: () => import('@/pages/SignIn.vue') },
    { path: '/', name: 'today', component: () => import('@/pages/Today.vue') },
    { path: '/clients', name: 'clients', component: () => import('@/pages/Clients.vue') },
    {
      path: '/clients/:id(\\d+)',
      name: 'client',
      component: () => import('@/pages/Client.vue'),
      props: true,
    },
    {
      path: '/clients/:id(\\d+)/draft',
      name: 'own-draft',
      component: () => import('@/pages/Draft.vue'),
      props: true,
    },
    {
      path: '/clients/:id(\\d+)/figures',
      name: 'profile',
      component: () => import('@/pages/Profile.vue'),
      props: true,
    },
    {
      path: '/clients/:id(\\d+)/history',
      name: 'history',
      component: () => import('@/pages/History.vue'),
      props: true,
    },
    {
      path: '/sessions/:id(\\d+)',
      name: 'session',
      component: () => import('@/pages/Session.vue'),
      props: true,
    },
    { path: '/forms', name: 'forms', component: () => import('@/pages/Forms.vue') },
    { path: '/forms/:id(\\d+)', name: 'form', component: () => import('@/pages/Form.vue'), props: true },
    { path: '/guide', name: 'guide', component: () => import('@/pages/TapeGuide.vue') },
    { path: '/import', name: 'import', component: () => import('@/pages/Import.vue') },
    { path: '/tape', name: 'tape', component: () => import('@/pages/TapeStandIn.vue') },
    { path: '/blocks', name: 'blocks', component: () => import('@/pages/Blocks.vue') },
    {
      path: '/blocks/draft',
      name: 'draft',
      component: () => import('@/pages/Draft.vue'),
      props: (route) => ({ name: route.query['name'] }),
    },
    { path: '/blocks/card', name: 'card', component: () => import('@/pages/Card.vue') },
    { path: '/blocks/tables', name: 'size-tables', component: () => import('@/pages/SizeTables.vue') },
    { path: '/blocks/:id(\\d+)', name: 'block', component: () => import('@/pages/Block.vue'), props: true },
    { path: '/level', name: 'level', component: () => import('@/pages/Level.vue') },
    { path: '/calendar', name: 'calendar', component: () => import('@/pages/Calendar.vue') },
    { path: '/letters', name: 'letters', component: () => import('@/pages/Letters.vue') },
    {
      path: '/story/:token',
      name: 'shared-story',
      component: () => import('@/pages/SharedStory.vue'),
      props: true,
    },
    { path: '/house', name: 'house', component: () => import('@/pages/House.vue') },
    {
      path: '/garments/:id(\\d+)',
      component: () => import('@/pages/Garment.vue'),
      props: true,
      children: [
        { path: 'measure', name: 'measure', component: () => import('@/pages/Measure.vue') },
        { path: 'compare', name: 'compare', component: () => import('@/pages/Compare.vue') },
        { path: 'plan', name: 'plan', component: () => import('@/pages/Plan.vue') },
        { path: 'alter', name: 'alter', component: () => import('@/pages/Alter.vue') },
        { path: 'toile', name: 'toile', component: () => import('@/pages/Toile.vue') },
        { path: 'fit', name: 'fit', component: () => import('@/pages/Fit.vue') },
        {
          path: 'fit/:round(\\d+)',
          name: 'round',
          component: () => import('@/pages/Fit.vue'),
          props: (route) => ({ roundId: route.params['round'] }),
        },
        { path: 'story', name: 'story', component: () => import('@/pages/Story.vue') },
        { path: 'dates', name: 'dates', component: () => import('@/pages/Dates.vue') },
        { path: 'cut', name: 'cut', component: () => import('@/pages/Cut.vue') },
      ],
    },
    { path: '/:nowhere(.*)', name: 'nowhere', component: () => import('@/pages/Nowhere.vue') },
  ],
})

// An amount typed just before a link is pressed is read before the page goes.
router.beforeEach(async () => {
  await fieldsRead()
})

router.beforeEach(async (to) => {
  const { me, enter } = useHouse()
  // The tape is a device, not a person: its token says which session it measures for.
  // A client reads her story by the link alone.
  const open = ['sign-in', 'tape', 'shared-story']
  if (open.includes(String(to.name)) || me.value) return true
  return (await enter()) ? true : { name: 'sign-in', query: { next: to.fullPath } }
})
