import { flushPromises, mount } from '@vue/test-utils'
import { expect, test } from 'vitest'
import HouseJobs from '@/components/house/HouseJobs.vue'
import { clearedAfterwards, serve } from './support'

const base = { asked_by: 'Marit', asked_at: '2026-11-29T03:12:00Z', done: 0, total: 0, says: null, of: 2 }
const jobs = [
  { ...base, id: 7, kind: 'import', about: 'readings.csv', state: 'working', done: 40, total: 120 },
  { ...base, id: 6, kind: 'everything', about: 'Edda', state: 'done' },
  { ...base, id: 5, kind: 'backup', about: null, state: 'failed', says: 'making /backups: no room is left' },
]

async function card(told: object[]) {
  const asked = serve(({ method }) => (method === 'GET' ? { body: told } : { status: 204 }))
  const wrapper = mount(HouseJobs)
  clearedAfterwards(wrapper)
  await flushPromises()
  return { wrapper, writes: () => asked.filter((each) => each.method !== 'GET') }
}

test('each piece of long work says what it is, how far it is and how it ended', async () => {
  const { wrapper, writes } = await card(jobs)
  const [saving, file, backup] = wrapper.findAll('li').map((each) => each.text())
  expect(saving).toContain('Readings from readings.csv')
  expect(saving).toContain('40 of 120')
  expect(file).toContain('All of Edda’s as one file')
  expect(file).toContain('Done.')
  expect(backup).toContain('It failed: making /backups: no room is left')
  expect(wrapper.findAll('button')).toHaveLength(1)
  await wrapper.get('button').trigger('click')
  await flushPromises()
  expect(writes().map(({ path }) => path)).toEqual(['/api/jobs/7/stop'])
})

test('a house without any shows nothing of it', async () => {
  expect((await card([])).wrapper.find('section').exists()).toBe(false)
})
