import { flushPromises } from '@vue/test-utils'
import { expect, test, vi } from 'vitest'
import { effectScope, nextTick, watch } from 'vue'
import { get, post, send } from '@/api/client'
import { useHouse } from '@/composables/useHouse'
import { useResource } from '@/composables/useResource'
import { later, living, serve } from './support'

const client = get('/api/clients/{id}', { params: { path: { id: 1 } } })

/** A page that is opened, and left again by the function it gives. */
function page(options = {}) {
  const scope = effectScope()
  const resource = scope.run(() => useResource(client, options))!
  return { ...resource, scope, leave: () => scope.stop() }
}

test('the same call on two parts of a page is one read', async () => {
  const asked = serve(() => ({ body: { name: 'Ines' } }))
  const [first, second] = [living(() => useResource(client)), living(() => useResource(client))]
  await flushPromises()
  expect([first.data.value?.name, second.data.value?.name]).toEqual(['Ines', 'Ines'])
  expect(asked).toHaveLength(1)
})

test('a page that is come back to shows at once what it read, and what has changed since behind it', async () => {
  let name = 'Ines'
  const asked = serve(() => ({ body: { name } }))
  const before = page()
  await flushPromises()
  before.leave()
  name = 'Ines Moe'
  const again = page()
  const heard: unknown[] = []
  again.scope.run(() => watch(again.data, (now) => heard.push(now?.name)))
  await Promise.resolve()
  expect(again.data.value?.name).toBe('Ines')
  await flushPromises()
  expect(again.data.value?.name).toBe('Ines Moe')
  expect([asked.length, heard]).toEqual([2, ['Ines', 'Ines Moe']])
  again.leave()
})

test('what was read before something was saved is shown to nobody who comes later', async () => {
  const answers = later<void>()
  let name = 'Ines'
  serve(async ({ method }) => {
    if (method === 'GET' && name !== 'Ines') await answers.promise
    return { body: { name } }
  })
  const before = page()
  await flushPromises()
  // Saved while the page is open: it shows what it knows, and is left.
  await send(post('/api/sign-out'), { key: 'one' })
  name = 'Ines Moe'
  before.leave()
  const again = page()
  await nextTick()
  expect(again.data.value).toBeUndefined()
  answers.give()
  await flushPromises()
  expect(again.data.value?.name).toBe('Ines Moe')
  again.leave()
})

test('a read that was under way when something was saved is read anew, by its page and by the next', async () => {
  for (const isLeft of [false, true]) {
    const slow = later<void>()
    let name = 'before'
    serve(async ({ method }) => {
      const said = name
      if (method === 'GET' && said === 'before') await slow.promise
      return { body: { name: said } }
    })
    const first = page()
    await flushPromises()
    name = 'after'
    await send(post('/api/sign-out'), { key: 'one' })
    // Whoever comes while it is still under way does not wait for what it read before.
    const shown = isLeft ? page() : first
    if (isLeft) first.leave()
    slow.give()
    await flushPromises()
    expect(shown.data.value?.name).toBe('after')
    shown.leave()
  }
})

test('whoever signs in next sees nothing that was read for somebody else', async () => {
  serve(() => ({ body: { name: 'Ines' } }))
  const before = page()
  await flushPromises()
  before.leave()
  living(() => useHouse()).leave()
  const again = page()
  await Promise.resolve()
  expect(again.data.value).toBeUndefined()
  again.leave()
})

test('a read that finds no line is tried again before it is said', async () => {
  let tried = 0
  serve(() => ((tried += 1) < 3 ? 'lost' : { body: { name: 'Ines' } }))
  const { data, problem } = living(() => useResource(client))
  await vi.waitFor(() => expect(data.value?.name).toBe('Ines'), { timeout: 10_000 })
  expect([tried, problem.value]).toEqual([3, undefined])
})

test('what is read anew while a read is under way is not the older answer', async () => {
  const older = later<void>()
  let asked = 0
  serve(async () => {
    asked += 1
    if (asked > 1) return { body: { name: 'Ines Moe' } }
    await older.promise
    return { body: { name: 'Ines' } }
  })
  const resource = living(() => useResource(client))
  await flushPromises()
  const anew = resource.reload()
  await flushPromises()
  older.give()
  await anew
  await flushPromises()
  expect([asked, resource.data.value?.name]).toEqual([2, 'Ines Moe'])
})

test('what lasts is not read again behind what is shown, until something was saved', async () => {
  let name = 'Ines'
  const asked = serve(({ method }) => (method === 'GET' ? { body: { name } } : { status: 204 }))
  const reads = () => asked.filter(({ method }) => method === 'GET').length
  const before = page({ lasts: true })
  await flushPromises()
  before.leave()
  name = 'Ines Moe'
  const again = page({ lasts: true })
  await flushPromises()
  expect([again.data.value?.name, reads()]).toEqual(['Ines', 1])
  await send(post('/api/sign-out'), { key: 'one' })
  again.leave()
  const later = page({ lasts: true })
  await flushPromises()
  expect([later.data.value?.name, reads()]).toEqual(['Ines Moe', 2])
  later.leave()
})
