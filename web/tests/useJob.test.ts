import { flushPromises } from '@vue/test-utils'
import { expect, onTestFinished, test, vi } from 'vitest'
import { ref } from 'vue'
import { useJob } from '@/composables/useJob'
import { living, problem, serve } from './support'

const job = (state: string, done: number) => ({ id: 4, kind: 'everything', state, done, total: 3 })

test('a piece of long work is followed until it has ended, and no longer', async () => {
  vi.useFakeTimers()
  onTestFinished(() => void vi.useRealTimers())
  let now = job('waiting', 0)
  const asked = serve(() => ({ body: now }))
  const id = ref<number>()
  const { job: told, inHand } = living(() => useJob(id))
  await vi.advanceTimersByTimeAsync(3000)
  expect(asked).toEqual([])
  id.value = 4
  await vi.advanceTimersByTimeAsync(10)
  expect([told.value?.state, inHand.value]).toEqual(['waiting', true])
  now = job('working', 2)
  await vi.advanceTimersByTimeAsync(1000)
  expect(told.value?.done).toBe(2)
  now = job('done', 3)
  await vi.advanceTimersByTimeAsync(1000)
  expect([told.value?.state, inHand.value]).toEqual(['done', false])
  const count = asked.length
  await vi.advanceTimersByTimeAsync(5000)
  expect(asked).toHaveLength(count)
})

test('it is given up, and why not is said', async () => {
  let refuses = true
  const asked = serve(({ method }) => {
    if (method === 'GET') return { body: job(refuses ? 'working' : 'stopping', 1) }
    return refuses ? problem(409, 'it has ended already') : { status: 204 }
  })
  const { job: told, problem: why, stop } = living(() => useJob(ref(4)))
  await flushPromises()
  await stop()
  expect(why.value?.detail).toBe('it has ended already')
  refuses = false
  await stop()
  await flushPromises()
  expect(asked.filter((each) => each.method === 'POST').map(({ path }) => path)).toEqual([
    '/api/jobs/4/stop',
    '/api/jobs/4/stop',
  ])
  expect([told.value?.state, why.value]).toEqual(['stopping', undefined])
})
