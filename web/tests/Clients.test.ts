import { flushPromises, mount } from '@vue/test-utils'
import { expect, test, vi } from 'vitest'
import { createMemoryHistory, createRouter } from 'vue-router'
import Clients from '@/pages/Clients.vue'
import { clearedAfterwards, later, serve } from './support'
import type { Reply } from './support'

vi.spyOn(console, 'warn').mockImplementation(() => {})

const client = (id: number, name: string) => ({
  id,
  name,
  contact: '',
  archived: false,
  in_hand: 0,
  here_at: null,
  readings_age: id === 1 ? 0 : null,
})

async function page(answer: (query: Record<string, string>) => Reply | Promise<Reply>) {
  const asked = serve(({ query }) => answer(query))
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [{ path: '/clients/:id', name: 'client', component: { template: '<p />' } }],
  })
  const wrapper = mount(Clients, { attachTo: document.body, global: { plugins: [router] } })
  clearedAfterwards(wrapper)
  await flushPromises()
  const more = async () => {
    await wrapper
      .findAll('button')
      .find((each) => each.text() === 'Show more')!
      .trigger('click')
    await flushPromises()
  }
  return { wrapper, asked, more, names: () => wrapper.findAll('.entry strong').map((each) => each.text()) }
}

test('clients beyond the first page come when they are asked for', async () => {
  const { wrapper, asked, more, names } = await page(({ after }) =>
    after
      ? { body: { items: [client(2, 'Berta')], next: null } }
      : { body: { items: [client(1, 'Anna')], next: '1 Anna' } },
  )
  expect(names()).toEqual(['Anna'])
  expect(wrapper.text()).toContain('measured today')
  await more()
  expect(asked.at(-1)!.query).toMatchObject({ after: '1 Anna' })
  expect(names()).toEqual(['Anna', 'Berta'])
  expect(wrapper.text()).not.toContain('Show more')
})

test('more of what is no longer looked for is not shown', async () => {
  const slow = later<Reply>()
  const { wrapper, more, names } = await page(({ after, q }) => {
    if (after) return slow.promise
    return q
      ? { body: { items: [client(3, 'Clara')], next: null } }
      : { body: { items: [client(1, 'Anna')], next: '1 Anna' } }
  })
  await more()
  await wrapper.get('#search').setValue('Clara')
  await flushPromises()
  slow.give({ body: { items: [client(2, 'Berta')], next: null } })
  await flushPromises()
  expect(names()).toEqual(['Clara'])
})
