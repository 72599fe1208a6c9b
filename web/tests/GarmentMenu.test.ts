import { mount } from '@vue/test-utils'
import { expect, test, vi } from 'vitest'
import { createMemoryHistory, createRouter } from 'vue-router'
import type { Me, OrderView, RightName } from '@/api/types'
import GarmentMenu from '@/components/garment/GarmentMenu.vue'
import { useHouse } from '@/composables/useHouse'
import { clearedAfterwards, openMenu, pressUndo, serve } from './support'

vi.spyOn(console, 'warn').mockImplementation(() => {})

const order = {
  id: 5,
  client_id: 2,
  client: 'Edda',
  garment: 'Concert dress',
  set_code: 'dress',
  set_name: 'Dress',
  revision: 3,
  pattern_id: 8,
  put_away: null,
  finished_at: null,
} as OrderView

async function menu(of: Partial<OrderView>, may: RightName[]) {
  useHouse().me.value = { id: 1, name: 'Marit', role: 'owner', may } as Me
  const asked = serve(({ method, path }) => {
    if (path === '/api/catalogue') return { body: { sets: [{ code: 'dress', name: 'Dress', codes: [] }] } }
    return method === 'GET' ? { body: [] } : { status: 204 }
  })
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [{ path: '/', component: { template: '<p />' } }],
  })
  const wrapper = mount(GarmentMenu, {
    props: { order: { ...order, ...of } },
    attachTo: document.body,
    global: { plugins: [router] },
  })
  clearedAfterwards(wrapper)
  const { names, choose } = await openMenu(wrapper.get('button').element)
  const writes = () => asked.filter((each) => each.method !== 'GET')
  return { wrapper, choose, writes, names }
}

test('what can be done hangs on the garment and on who is signed in', async () => {
  const all: RightName[] = ['dates', 'cutting']
  const inHand = await menu({}, all)
  expect(inHand.names()).toEqual([
    'Rename',
    'Make it again',
    'Compare with another',
    'Who changed this',
    'Cancel',
  ])
  inHand.wrapper.unmount()
  document.body.innerHTML = ''
  const reader = await menu({ pattern_id: null }, [])
  expect(reader.names()).toEqual(['Who changed this'])
})

test('a garment that was handed over is archived, one that is put away is brought back', async () => {
  const done = await menu({ finished_at: '2026-10-01T00:00:00Z' }, ['dates'])
  expect(done.names()).toContain('Put into the archive')
  expect(done.names()).not.toContain('Cancel')
  await done.choose('Put into the archive')
  expect(done.writes()).toMatchObject([
    { method: 'PUT', path: '/api/orders/5/put-away', body: { revision: 3, put_away: 'archived' } },
  ])
  expect(done.wrapper.emitted('changed')).toHaveLength(1)
})

test('cancelling can be undone from where it was done', async () => {
  const { wrapper, choose, writes } = await menu({}, ['dates'])
  await choose('Cancel')
  const notice = document.querySelector('.el-notification')!
  expect(notice.textContent).toContain('“Concert dress” is cancelled; its dates are free.')
  await pressUndo()
  expect(writes().at(-1)).toMatchObject({
    path: '/api/orders/5/put-away',
    body: { revision: 4, put_away: null },
  })
  expect(wrapper.emitted('changed')).toHaveLength(2)
})
