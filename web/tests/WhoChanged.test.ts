import { flushPromises, mount } from '@vue/test-utils'
import { expect, test, vi } from 'vitest'
import WhoChanged from '@/components/WhoChanged.vue'
import { clearedAfterwards, serve } from './support'

vi.spyOn(console, 'warn').mockImplementation(() => {})

const change = (id: number, says: string, person: string | null) => ({
  id,
  says,
  person,
  at: '2026-11-20T09:05:00Z',
  client: 'Edda',
  garment: 'Velvet jacket',
})

async function drawer(of: { client: number } | { garment: number }) {
  const asked = serve(({ query }) =>
    query['after']
      ? { body: { items: [change(1, 'client: added', null)], next: null } }
      : { body: { items: [change(9, 'reading Bust girth, 40: corrected', 'Marit')], next: '9' } },
  )
  const wrapper = mount(WhoChanged, { props: { of, open: false }, attachTo: document.body })
  clearedAfterwards(wrapper)
  expect(asked).toEqual([])
  await wrapper.setProps({ open: true })
  await flushPromises()
  return { asked, text: () => document.querySelector('.el-drawer')!.textContent }
}

test('of a client it is asked only when it is opened, page by page', async () => {
  const { asked, text } = await drawer({ client: 3 })
  expect(asked.map(({ path }) => path)).toEqual(['/api/clients/3/changes'])
  expect(text()).toContain('Marit')
  expect(text()).toContain('reading Bust girth, 40: corrected (Velvet jacket)')
  const older = [...document.querySelectorAll('button')].find((each) => each.textContent.trim() === 'Older')!
  older.click()
  await flushPromises()
  expect(asked.at(-1)).toMatchObject({ path: '/api/clients/3/changes', query: { after: '9' } })
  expect(text()).toContain('by itself')
})

test('of a garment its own name is not said again', async () => {
  const { asked, text } = await drawer({ garment: 5 })
  expect(asked.map(({ path }) => path)).toEqual(['/api/orders/5/changes'])
  expect(text()).not.toContain('(Velvet jacket)')
})
