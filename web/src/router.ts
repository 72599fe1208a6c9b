import { createRouter, createWebHistory } from 'vue-router'
import type { RouteLocationNormalized } from 'vue-router'
import { fieldsRead } from '@/composables/usePendingFields'
import { useHouse } from '@/composables/useHouse'

/** The number of the row an address is of. */
const rowOf = (route: RouteLocationNormalized) => ({ id: Number(route.params['id']) })

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    {
      path: '/sign-in',
      name: 'sign-in',
      meta: { title: 'Sign in' },
      component: () => import('@/pages/SignIn.vue'),
    },
    { path: '/', name: 'today', meta: { title: 'Today' }, component: () => import('@/pages/Today.vue') },
    {
      path: '/clients',
      name: 'clients',
      meta: { title: 'Clients' },
      component: () => import('@/pages/Clients.vue'),
    },
    {
      path: '/clients/:id(\\d+)',
      name: 'client',
      meta: { title: 'Client' },
      component: () => import('@/pages/Client.vue'),
      props: rowOf,
    },
    {
      path: '/clients/:id(\\d+)/draft',
      name: 'own-draft',
      meta: { title: 'Her own block' },
      component: () => import('@/pages/Draft.vue'),
      props: rowOf,
    },
    {
      path: '/clients/:id(\\d+)/figures',
      name: 'profile',
      meta: { title: 'Figures' },
      component: () => import('@/pages/Profile.vue'),
      props: rowOf,
    },
    {
      path: '/clients/:id(\\d+)/history',
      name: 'history',
      meta: { title: 'History' },
      component: () => import('@/pages/History.vue'),
      props: rowOf,
    },
    {
      path: '/sessions/:id(\\d+)',
      name: 'session',
      meta: { title: 'Measuring' },
      component: () => import('@/pages/Session.vue'),
      props: rowOf,
    },
    { path: '/forms', name: 'forms', meta: { title: 'Forms' }, component: () => import('@/pages/Forms.vue') },
    {
      path: '/forms/:id(\\d+)',
      name: 'form',
      meta: { title: 'Form' },
      component: () => import('@/pages/Form.vue'),
      props: rowOf,
    },
    {
      path: '/forms/:id(\\d+)/draft',
      name: 'form-draft',
      meta: { title: 'Block of a form' },
      component: () => import('@/pages/Draft.vue'),
      props: (route) => ({ form: Number(route.params['id']) }),
    },
    {
      path: '/practice',
      name: 'practice',
      meta: { title: 'Practice' },
      component: () => import('@/pages/Practice.vue'),
    },
    {
      path: '/glossary',
      name: 'glossary',
      meta: { title: 'Words of the trade' },
      component: () => import('@/pages/Glossary.vue'),
    },
    {
      path: '/guide',
      name: 'guide',
      meta: { title: 'Where the tape goes' },
      component: () => import('@/pages/TapeGuide.vue'),
    },
    {
      path: '/import',
      name: 'import',
      meta: { title: 'Readings from a file' },
      component: () => import('@/pages/Import.vue'),
    },
    {
      path: '/tape',
      name: 'tape',
      meta: { title: 'Stand-in tape' },
      component: () => import('@/pages/TapeStandIn.vue'),
    },
    {
      path: '/blocks',
      name: 'blocks',
      meta: { title: 'Blocks' },
      component: () => import('@/pages/Blocks.vue'),
    },
    {
      path: '/blocks/draft',
      name: 'draft',
      meta: { title: 'Draft a master' },
      component: () => import('@/pages/Draft.vue'),
      props: (route) => ({ name: route.query['name'] }),
    },
    {
      path: '/blocks/card',
      name: 'card',
      meta: { title: 'Measure a card' },
      component: () => import('@/pages/Card.vue'),
    },
    {
      path: '/blocks/tables',
      name: 'size-tables',
      meta: { title: 'Size tables' },
      component: () => import('@/pages/SizeTables.vue'),
    },
    {
      path: '/drapes',
      name: 'drapes',
      meta: { title: 'From cloth and paper' },
      component: () => import('@/pages/Drapes.vue'),
      props: ({ query }) => ({
        client: query['client'] ? Number(query['client']) : undefined,
        form: query['form'] ? Number(query['form']) : undefined,
        material: query['material'] === 'slashed' ? 'slashed' : undefined,
      }),
    },
    {
      path: '/cloth',
      name: 'cloth',
      meta: { title: 'Cloth before it goes on' },
      component: () => import('@/pages/ClothSheet.vue'),
      props: ({ query }) => ({
        client: query['client'] ? Number(query['client']) : undefined,
        form: query['form'] ? Number(query['form']) : undefined,
      }),
    },
    {
      path: '/draping-guide',
      name: 'draping-guide',
      meta: { title: 'Where the dart goes' },
      component: () => import('@/pages/DrapingGuide.vue'),
      props: ({ query }) => ({
        client: query['client'] ? Number(query['client']) : undefined,
        form: query['form'] ? Number(query['form']) : undefined,
      }),
    },
    {
      path: '/drapes/:id(\\d+)',
      name: 'drape',
      meta: { title: 'Toile or paper pattern' },
      component: () => import('@/pages/Drape.vue'),
      props: rowOf,
    },
    {
      path: '/blocks/:id(\\d+)/beside',
      name: 'block-beside',
      meta: { title: 'Laid over another block' },
      component: () => import('@/pages/BlocksBeside.vue'),
      props: ({ params, query }) => ({
        id: Number(params['id']),
        other: query['other'] === undefined ? undefined : Number(query['other']),
      }),
    },
    {
      path: '/blocks/:id(\\d+)',
      name: 'block',
      meta: { title: 'Block' },
      component: () => import('@/pages/Block.vue'),
      props: rowOf,
    },
    {
      path: '/level',
      name: 'level',
      meta: { title: 'Level and hem' },
      component: () => import('@/pages/Level.vue'),
    },
    {
      path: '/calendar',
      name: 'calendar',
      meta: { title: 'Calendar' },
      component: () => import('@/pages/Calendar.vue'),
    },
    {
      path: '/letters',
      name: 'letters',
      meta: { title: 'Letters' },
      component: () => import('@/pages/Letters.vue'),
    },
    {
      path: '/story/:token',
      name: 'shared-story',
      meta: { title: 'Your garment' },
      component: () => import('@/pages/SharedStory.vue'),
      props: true,
    },
    {
      path: '/welcome/:token',
      name: 'welcome',
      meta: { title: 'Welcome' },
      component: () => import('@/pages/Welcome.vue'),
      props: true,
    },
    {
      path: '/house/people',
      name: 'people',
      meta: { title: 'People of the house' },
      component: () => import('@/pages/People.vue'),
    },
    {
      path: '/me',
      name: 'me',
      meta: { title: 'Your sign-in' },
      component: () => import('@/pages/OwnSignIn.vue'),
    },
    {
      path: '/house/changes',
      name: 'changes',
      meta: { title: 'Who changed what' },
      component: () => import('@/pages/Changes.vue'),
    },
    { path: '/house', name: 'house', meta: { title: 'House' }, component: () => import('@/pages/House.vue') },
    {
      path: '/garments/:id(\\d+)/beside/:other(\\d+)',
      name: 'beside',
      meta: { title: 'Two garments' },
      component: () => import('@/pages/Beside.vue'),
      props: ({ params }) => ({ id: Number(params['id']), other: Number(params['other']) }),
    },
    {
      path: '/garments/:id(\\d+)',
      component: () => import('@/pages/Garment.vue'),
      props: rowOf,
      children: [
        {
          path: 'measure',
          name: 'measure',
          meta: { title: 'Measure' },
          component: () => import('@/pages/Measure.vue'),
        },
        {
          path: 'compare',
          name: 'compare',
          meta: { title: 'Compare' },
          component: () => import('@/pages/Compare.vue'),
        },
        { path: 'plan', name: 'plan', meta: { title: 'Plan' }, component: () => import('@/pages/Plan.vue') },
        {
          path: 'wishes',
          name: 'wishes',
          meta: { title: 'What she wishes' },
          component: () => import('@/pages/Wishes.vue'),
        },
        {
          path: 'alter',
          name: 'alter',
          meta: { title: 'Cutting table' },
          component: () => import('@/pages/Alter.vue'),
        },
        {
          path: 'toile',
          name: 'toile',
          meta: { title: 'Toile' },
          component: () => import('@/pages/Toile.vue'),
        },
        { path: 'fit', name: 'fit', meta: { title: 'Fitting' }, component: () => import('@/pages/Fit.vue') },
        {
          path: 'fit/:round(\\d+)',
          name: 'round',
          meta: { title: 'Fitting round' },
          component: () => import('@/pages/Fit.vue'),
          props: (route) => ({ roundId: Number(route.params['round']) }),
        },
        {
          path: 'story',
          name: 'story',
          meta: { title: 'Story' },
          component: () => import('@/pages/Story.vue'),
        },
        {
          path: 'dates',
          name: 'dates',
          meta: { title: 'Dates' },
          component: () => import('@/pages/Dates.vue'),
        },
        { path: 'cut', name: 'cut', meta: { title: 'Cut' }, component: () => import('@/pages/Cut.vue') },
      ],
    },
    {
      path: '/:nowhere(.*)',
      name: 'nowhere',
      meta: { title: 'Nothing here' },
      component: () => import('@/pages/Nowhere.vue'),
    },
  ],
})

// An amount typed just before a link is pressed is read before the page goes.
router.beforeEach(async () => {
  await fieldsRead()
})

// Each page is told apart in the history and between tabs; no client is named there.
router.afterEach((to) => {
  document.title = `${String(to.meta['title'] ?? 'Yardwand')} · Yardwand`
})

router.beforeEach(async (to) => {
  const { me, enter } = useHouse()
  // The tape is a device, not a person: its token says which session it measures for.
  // A client reads her story by the link alone, and somebody new comes in by one.
  const open = ['sign-in', 'tape', 'shared-story', 'welcome']
  if (open.includes(String(to.name)) || me.value) return true
  return (await enter()) ? true : { name: 'sign-in', query: { next: to.fullPath } }
})
