import { flushPromises } from '@vue/test-utils'
import { expect, onTestFinished, test, vi } from 'vitest'
import { nextTick, ref } from 'vue'
import { get } from '@/api/client'
import { useResource } from '@/composables/useResource'
import { later, living, problem, serve } from './support'

const client = (id: number) => get('/api/clients/{id}', { params: { path: { id } } })

test('it reads what the call says, anew whenever that changes, and nothing where there is none', async () => {
  const asked = serve(({ path }) => ({ body: { name: path } }))
  const id = ref<number>()
  const { data } = living(() => useResource(() => (id.value === undefined ? undefined : client(id.value))))
  await flushPromises()
  expect(asked).toHaveLength(0)
  id.value = 3
  await flushPromises()
  expect(data.value?.name).toBe('/api/clients/3')
  id.value = 4
  await flushPromises()
  expect(data.value?.name).toBe('/api/clients/4')
})

test('an answer that was overtaken is not shown, and whoever waits for it gets the newer one', async () => {
  const [older, newer] = [later<void>(), later<void>()]
  serve(async ({ path }, signal) => {
    await (path.endsWith('/1') ? older : newer).promise
    return signal.aborted ? 'lost' : { body: { name: path } }
  })
  const id = ref(1)
  const { data, settled } = living(() => useResource(() => client(id.value)))
  let isSettled = false
  const first = settled().then(() => (isSettled = true))
  id.value = 2
  await nextTick()
  older.give()
  await flushPromises()
  expect([isSettled, data.value]).toEqual([false, undefined])
  newer.give()
  await first
  expect(data.value?.name).toBe('/api/clients/2')
})

test('of two reads anew at once, by one part of a page or by two, both end with the newer answer', async () => {
  const answers = [later<string>(), later<string>(), later<string>()]
  const asked = serve(async (_, signal) => {
    const name = await answers[asked.length - 1]?.promise
    return signal.aborted ? 'lost' : { body: { name } }
  })
  const parts = living(() => [useResource(() => client(1)), useResource(() => client(1))] as const)
  answers[0]?.give('before')
  await flushPromises()
  const seen: (string | undefined)[] = []
  const first = parts[0].reload().then(() => seen.push(parts[0].data.value?.name))
  await flushPromises()
  const second = parts[1].reload().then(() => seen.push(parts[1].data.value?.name))
  await flushPromises()
  answers[1]?.give('overtaken')
  await flushPromises()
  expect(seen).toEqual([])
  answers[2]?.give('after')
  await Promise.all([first, second])
  expect(seen).toEqual(['after', 'after'])
})

test('a problem stands beside what was read before, until it can be read again', async () => {
  let refuses = false
  serve(() => (refuses ? problem(404, 'she was erased') : { body: { name: 'Ines' } }))
  const resource = living(() => useResource(() => client(1)))
  await flushPromises()
  refuses = true
  await resource.reload()
  expect(resource.problem.value?.detail).toBe('she was erased')
  expect(resource.data.value?.name).toBe('Ines')
  refuses = false
  await resource.reload()
  expect(resource.problem.value).toBeUndefined()
})

test('what another tab saves comes in, but not over something half typed', async () => {
  let name = 'Ines'
  const asked = serve(() => ({ body: { name } }))
  const typing = ref(false)
  const { data } = living(() => useResource(() => client(1), { follows: () => !typing.value }))
  await flushPromises()
  const otherTab = new BroadcastChannel('yardwand')
  onTestFinished(() => otherTab.close())
  const heard = async () => {
    const before = asked.length
    otherTab.postMessage('saved')
    await vi.waitFor(() => expect(asked.length).toBeGreaterThan(before), { timeout: 10_000 })
    await flushPromises()
  }
  typing.value = true
  name = 'Ines Moe'
  await heard()
  expect(data.value?.name).toBe('Ines')
  typing.value = false
  await heard()
  expect(data.value?.name).toBe('Ines Moe')
})
