import { flushPromises, mount } from '@vue/test-utils'
import { expect, onTestFinished, test, vi } from 'vitest'
import FindAnything from '@/components/FindAnything.vue'
import { useHouse } from '@/composables/useHouse'
import { router } from '@/router'
import { later, serve } from './support'

vi.spyOn(console, 'warn').mockImplementation(() => {})

/** On a machine that is busy. */
const PATIENCE = { timeout: 25_000 }
const ines = { kind: 'client', key: '7', title: 'Ines Moe', detail: '555 01 23' }
const back = { kind: 'alteration', key: 'rounded_back', title: 'Rounded back', detail: 'Her back is round.' }

async function finder(found: unknown[] | ((typed: string) => Promise<unknown[]>), from = '/house') {
  useHouse().me.value = { id: 1, name: 'Marit', role: 'owner', may: [] }
  const asked = serve(async ({ path, query }) => {
    if (path !== '/api/find') return { body: {} }
    return { body: typeof found === 'function' ? await found(query['q'] ?? '') : found }
  })
  await router.push(from)
  const wrapper = mount(FindAnything, {
    attachTo: document.body,
    global: { plugins: [router], stubs: { transition: false } },
  })
  onTestFinished(() => wrapper.unmount())
  const stroke = (key: string, on: Element = document.body) =>
    on.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }))
  const type = async (text: string) => {
    const field = document.querySelector<HTMLInputElement>('#find')!
    field.focus()
    field.value = text
    field.dispatchEvent(new Event('input', { bubbles: true }))
    await vi.waitFor(() => expect(asked.at(-1)?.query).toEqual({ q: text }), PATIENCE)
    await flushPromises()
  }
  const hits = () => [...document.querySelectorAll<HTMLElement>('.el-autocomplete-suggestion [role=option]')]
  return { stroke, type, hits }
}

test('a stroke opens it from anywhere, but not out of a field', async () => {
  const { stroke } = await finder([])
  const field = document.body.appendChild(document.createElement('input'))
  onTestFinished(() => field.remove())
  stroke('/', field)
  await flushPromises()
  expect(document.querySelector('#find')).toBeNull()
  stroke('/')
  await flushPromises()
  expect(document.querySelector('#find')).not.toBeNull()
})

test('what is found is gone to', async () => {
  const { stroke, type, hits } = await finder([ines])
  stroke('/')
  await flushPromises()
  await type('moe')
  expect(hits()[0]?.textContent).toContain('Ines Moe')
  hits()[0]?.click()
  await vi.waitFor(() => expect(router.currentRoute.value.fullPath).toBe('/clients/7'), PATIENCE)
})

test('pages are found by their titles, and nothing found is said', async () => {
  const { stroke, type, hits } = await finder([])
  stroke('/')
  await flushPromises()
  await type('calén')
  expect(hits().map((each) => each.textContent.trim())).toEqual(['CalendarPage'])
  await type('no such thing')
  expect(document.querySelector('.missed')?.textContent).toContain('holds “no such thing”')
})

test('an alteration is offered where a garment is open, and begun on its cutting table', async () => {
  const { stroke, type, hits } = await finder([back], '/garments/3/story')
  stroke('/')
  await flushPromises()
  await type('rounded b')
  hits()[0]?.click()
  await vi.waitFor(
    () => expect(router.currentRoute.value.fullPath).toBe('/garments/3/alter?add=rounded_back'),
    PATIENCE,
  )
})

test('an alteration is offered nowhere else', async () => {
  const { stroke, type, hits } = await finder([back])
  stroke('/')
  await flushPromises()
  await type('rounded')
  expect(hits()).toHaveLength(0)
})

test('Enter pressed before the hits are there goes to the first of what was typed', async () => {
  const { stroke, type, hits } = await finder(async (typed) =>
    typed === 'moe' ? [ines] : [{ ...ines, key: '8', title: 'Moa Lind' }],
  )
  stroke('/')
  await flushPromises()
  await type('mo')
  expect(hits()[0]?.textContent).toContain('Moa Lind')
  const field = document.querySelector<HTMLInputElement>('#find')!
  field.value = 'moe'
  field.dispatchEvent(new Event('input', { bubbles: true }))
  stroke('Enter', field)
  await vi.waitFor(() => expect(router.currentRoute.value.fullPath).toBe('/clients/7'), PATIENCE)
})

test('an answer that was overtaken is not shown', async () => {
  const older = later<unknown[]>()
  const { stroke, type, hits } = await finder((typed) =>
    typed === 'mo' ? older.promise : Promise.resolve([ines]),
  )
  stroke('/')
  await flushPromises()
  await type('mo')
  await type('moe')
  expect(hits()).toHaveLength(1)
  older.give([{ ...ines, key: '8', title: 'Moa Lind' }])
  await flushPromises()
  expect(hits().map((each) => each.textContent)).toEqual([expect.stringContaining('Ines Moe')])
})
