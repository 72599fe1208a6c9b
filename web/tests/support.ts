/** What the tests share: a server that answers as told, and a place for a composable to live in. */
import { flushPromises, mount } from '@vue/test-utils'
import { onTestFinished, vi } from 'vitest'
import { defineComponent, effectScope, h } from 'vue'
import type { Component } from 'vue'
import { createMemoryHistory, createRouter } from 'vue-router'
import { queries } from '@/api/queries'
import type { Me } from '@/api/types'
import { useHouse } from '@/composables/useHouse'
import { provideOrder } from '@/composables/useOrder'
import { router as application } from '@/router'

/** What a server was asked. */
export interface Asked {
  method: string
  path: string
  query: Record<string, string>
  body: unknown
  key: string | null
}

/** What it answers; `lost` where the line is broken. */
export type Reply = { status?: number; body?: unknown; text?: string } | 'lost'

/** Answers every call as told and remembers what was asked, in order. */
export function serve(answer: (asked: Asked, signal: AbortSignal) => Reply | Promise<Reply>): Asked[] {
  const all: Asked[] = []
  queries.clear()
  vi.stubGlobal('fetch', async (request: Request) => {
    const url = new URL(request.url)
    const text = await request.text()
    const asked: Asked = {
      method: request.method,
      path: url.pathname,
      query: Object.fromEntries(url.searchParams),
      body: text === '' ? undefined : JSON.parse(text),
      key: request.headers.get('idempotency-key'),
    }
    all.push(asked)
    const reply = await answer(asked, request.signal)
    if (reply === 'lost') throw new TypeError('the line is lost')
    const { status = 200, body } = reply
    const said = reply.text ?? (body === undefined ? null : JSON.stringify(body))
    return new Response(status === 204 ? null : said, { status })
  })
  onTestFinished(() => void vi.unstubAllGlobals())
  return all
}

/** A problem as the server names it. */
export const problem = (status: number, detail: string, type = 'urn:yardwand:field') => ({
  status,
  body: { type, title: 'Not so', status, detail },
})

/** Runs a composable as a component would; it ends with the test. */
export function living<T>(use: () => T): T {
  const scope = effectScope()
  onTestFinished(() => scope.stop())
  return scope.run(use) as T
}

/** An answer the test gives when it is time. */
export function later<T>() {
  let give: (value: T) => void = () => {}
  const promise = new Promise<T>((resolve) => (give = resolve))
  return { promise, give }
}

/** Opens the list of this field and chooses the entry of this name. */
export async function pick(id: string, entry: string): Promise<void> {
  const field = document.getElementById(id)
  field?.closest<HTMLElement>('.el-select__wrapper')?.click()
  await flushPromises()
  const list = document.getElementById(field?.getAttribute('aria-controls') ?? '')
  const entries = [...(list?.querySelectorAll<HTMLElement>('[role=option]') ?? [])]
  const found = entries.find((each) => each.textContent.trim() === entry)
  if (!found) throw new Error(`no ${entry} among ${entries.map((each) => each.textContent).join(', ')}`)
  found.click()
  await flushPromises()
}

/** What stands in this field. */
export const picked = (id: string): string =>
  document
    .getElementById(id)
    ?.closest('.el-select')
    ?.querySelector('.el-select__placeholder')
    ?.textContent.trim() ?? ''

/** Opens the menu behind this button; its entries by name, and one to be chosen. */
export async function openMenu(button: HTMLElement) {
  button.click()
  await flushPromises()
  await new Promise((done) => setTimeout(done, 200))
  const entries = () => [...document.querySelectorAll<HTMLElement>('.el-dropdown-menu__item')]
  const names = () => entries().map((each) => each.textContent.trim())
  async function choose(name: string): Promise<void> {
    const found = entries().find((each) => each.textContent.trim() === name)
    if (!found) throw new Error(`no ${name} among ${names().join(', ')}`)
    found.click()
    await flushPromises()
  }
  return { names, choose }
}

/** Brings back what was just taken away. */
export async function pressUndo(): Promise<void> {
  document.querySelector<HTMLElement>('.el-notification button')!.click()
  await flushPromises()
}

/** Types into the field of this id. */
export function typeInto(id: string, text: string): void {
  const field = document.querySelector<HTMLInputElement>(`#${id}`)!
  field.value = text
  field.dispatchEvent(new Event('input', { bubbles: true }))
}

/** Presses the button of the dialog that is open. */
export async function submitDialog(): Promise<void> {
  document.querySelector('.el-dialog form')!.dispatchEvent(new Event('submit', { cancelable: true }))
  await flushPromises()
}

/** Takes a mounted component off the page when the test is over, with everything it laid over the page. */
export function clearedAfterwards(wrapper: { unmount: () => void }): void {
  onTestFinished(() => {
    wrapper.unmount()
    document.body.innerHTML = ''
  })
}

/** Whoever is signed in may this, until the test is over. */
export function signedIn(...may: Me['may']): void {
  const { me } = useHouse()
  me.value = { id: 1, name: 'Marit', role: 'owner', may } as Me
  onTestFinished(() => void (me.value = undefined))
}

/** The addresses of the application, with nothing behind them. */
export function addresses() {
  const nothing = { template: '<p />' }
  const known = application.getRoutes().filter(({ name }) => name)
  const routes = known.map(({ path, name }) => ({ path, name: name!, component: nothing }))
  return createRouter({ history: createMemoryHistory(), routes })
}

/** A page of garment 7, below what reads the garment; `serve` answers for both. */
export async function garmentPage(page: Component) {
  const router = addresses()
  const above = defineComponent(() => {
    provideOrder(() => 7)
    return () => h(page)
  })
  const wrapper = mount(above, { attachTo: document.body, global: { plugins: [router] } })
  clearedAfterwards(wrapper)
  await flushPromises()
  /** Presses the button or link of this name. */
  async function press(name: string): Promise<void> {
    const all = [...document.querySelectorAll<HTMLElement>('button, a, summary')]
    const found = all.find((each) => each.textContent.trim() === name)
    if (!found) throw new Error(`no ${name} among ${all.map((each) => each.textContent.trim()).join('; ')}`)
    found.click()
    await flushPromises()
  }
  return { wrapper, router, press }
}

/** A length as the server shows it. */
export const shown = (mm: number, text = String(mm)) => ({ mm, text, exact: text })
