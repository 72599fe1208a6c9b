import { mount } from '@vue/test-utils'
import { expect, test, vi } from 'vitest'
import type { ClientView, Me } from '@/api/types'
import ClientMenu from '@/components/client/ClientMenu.vue'
import { useHouse } from '@/composables/useHouse'
import { clearedAfterwards, openMenu, pick, pressUndo, problem, serve, submitDialog } from './support'
import type { Asked, Reply } from './support'

vi.spyOn(console, 'warn').mockImplementation(() => {})

const client = { id: 2, name: 'Edda', contact: '', revision: 4, archived_at: null } as unknown as ClientView
const entries = { items: [client, { id: 7, name: 'E. Mårtens', contact: '020 7946 0102' }], next: null }

async function menu(may: Me['may'], answer: (asked: Asked) => Reply = () => ({ status: 204 })) {
  useHouse().me.value = { id: 1, name: 'Marit', role: 'owner', may } as Me
  const asked = serve((now) => (now.method === 'GET' ? { body: entries } : answer(now)))
  const wrapper = mount(ClientMenu, { props: { client }, attachTo: document.body })
  clearedAfterwards(wrapper)
  const { names, choose } = await openMenu(wrapper.get('button').element)
  const writes = () => asked.filter((each) => each.method !== 'GET')
  return { wrapper, choose, writes, names }
}

test('two entries of one woman are made one, and parted by the other one’s number', async () => {
  const { wrapper, choose, writes } = await menu(['readings', 'dates'])
  await choose('Same woman as another entry')
  await pick('other-entry', 'E. Mårtens, 020 7946 0102')
  await submitDialog()
  expect(writes()).toMatchObject([
    { method: 'POST', path: '/api/clients/2/merged', body: { other: 7, revision: 4 } },
  ])
  await pressUndo()
  expect(writes().at(-1)).toMatchObject({ method: 'DELETE', path: '/api/clients/7/merged' })
  expect(wrapper.emitted('changed')).toHaveLength(2)
})

test('a client who is archived comes back by one press, as she was seen then', async () => {
  const { choose, writes } = await menu(['readings'])
  await choose('Put into the archive')
  await pressUndo()
  expect(writes()).toMatchObject([
    { path: '/api/clients/2/archived', body: { archived: true, revision: 4 } },
    { path: '/api/clients/2/archived', body: { archived: false, revision: 5 } },
  ])
})

test('why she cannot be archived is said', async () => {
  const { wrapper, choose } = await menu(['readings'], () => problem(409, 'a garment of hers is in hand'))
  await choose('Put into the archive')
  expect(document.body.textContent).toContain('A garment of hers is in hand')
  expect(wrapper.emitted('changed')).toBeUndefined()
})

test('whoever only looks may ask who changed something, and nothing more', async () => {
  expect((await menu([])).names()).toEqual(['Who changed this'])
})

test('all of hers is put together, told, and taken in when it is done', async () => {
  const asked: string[] = []
  let number = 8
  let state = 'working'
  useHouse().me.value = { id: 1, name: 'Marit', role: 'owner', may: ['readings'] } as Me
  serve(({ method, path }) => {
    asked.push(`${method} ${path}`)
    if (method === 'POST') return { status: 201, body: { id: (number += 1) } }
    return { body: { id: number, kind: 'everything', state, done: 1, total: 3 } }
  })
  const went = vi.spyOn(window.location, 'assign').mockImplementation(() => {})
  const wrapper = mount(ClientMenu, { props: { client }, attachTo: document.body })
  clearedAfterwards(wrapper)
  const { choose } = await openMenu(wrapper.get('button').element)
  await choose('All of hers as one file')
  await vi.waitFor(() => expect(document.querySelector('.el-dialog')?.textContent).toContain('1 of 3'))
  expect(went).not.toHaveBeenCalled()
  state = 'done'
  await vi.waitFor(() => expect(went).toHaveBeenCalledWith('/api/clients/2/everything.zip'), 3000)
  expect(document.querySelector('.el-dialog a')?.getAttribute('href')).toBe('/api/clients/2/everything.zip')
  expect(asked[0]).toBe('POST /api/clients/2/everything')
  // Asked for again it may be done before it is looked at.
  went.mockClear()
  await (await openMenu(wrapper.get('button').element)).choose('All of hers as one file')
  await vi.waitFor(() => expect(went).toHaveBeenCalledTimes(1), 3000)
})
