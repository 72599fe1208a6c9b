import { flushPromises, mount } from '@vue/test-utils'
import { expect, onTestFinished, test, vi } from 'vitest'
import FindAnything from '@/components/FindAnything.vue'
import { useHouse } from '@/composables/useHouse'
import { router } from '@/router'
import { serve } from './support'

vi.spyOn(console, 'warn').mockImplementation(() => {})

/** On a machine that is busy. */
const PATIENCE = { timeout: 25_000 }
const ines = { kind: 'client', key: '7', title: 'Ines Moe', detail: '555 01 23' }
const back = { kind: 'alteration', key: 'rounded_back', title: 'Rounded back', detail: 'Her back is round.' }

async function finder(found: unknown[], from = '/house') {
  useHouse().me.value = { id: 1, name: 'Marit', role: 'owner', may: [] }
  const asked = serve(({ path }) => ({ body: path === '/api/find' ? found : {} }))
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
