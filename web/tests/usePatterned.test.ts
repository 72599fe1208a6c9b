import { flushPromises } from '@vue/test-utils'
import { expect, test } from 'vitest'
import { ref } from 'vue'
import { usePatterned } from '@/composables/usePatterned'
import { living, serve } from './support'

const garment = (id: number, patternId: number | null = id) => ({ id, client_id: 1, pattern_id: patternId })

function picker() {
  const [open, chosen] = [ref(false), ref<number>()]
  const found = living(() =>
    usePatterned({
      asked: open,
      client: 7,
      isOwn: ({ id }) => id === 1,
      isChosen: ({ id }) => id === chosen.value,
    }),
  )
  return { ...found, open, chosen, ids: () => found.garments.value.map(({ id }) => id) }
}

test('it offers the others that have a pattern, and what is chosen stays while something else is looked for', async () => {
  const asked = serve(({ query }) => ({
    body: query.q ? [garment(9)] : [garment(1), garment(2), garment(3, null), garment(4)],
  }))
  const { open, chosen, ids, search } = picker()
  await flushPromises()
  expect(asked, 'nothing is read before it is asked for').toHaveLength(0)
  open.value = true
  await flushPromises()
  expect(ids(), 'not its own, and none without a pattern').toEqual([2, 4])
  chosen.value = 4
  await flushPromises()
  search(' velvet ')
  await flushPromises()
  expect(ids()).toEqual([9, 4])
  expect(asked.at(-1)?.query).toEqual({ q: 'velvet', client: '7' })
  open.value = false
  await flushPromises()
  open.value = true
  await flushPromises()
  expect(ids(), 'opened again it begins anew').toEqual([2, 4])
})

test('that a search finds nothing does not mean that there is none', async () => {
  serve(({ query }) => ({ body: query.q ? [] : [garment(1), garment(2)] }))
  const { open, none, search } = picker()
  open.value = true
  await flushPromises()
  search('nobody')
  await flushPromises()
  expect(none.value).toBe(false)
})

test('where no other garment has a pattern there is none', async () => {
  serve(() => ({ body: [garment(1), garment(3, null)] }))
  const { open, none } = picker()
  open.value = true
  await flushPromises()
  expect(none.value).toBe(true)
})
