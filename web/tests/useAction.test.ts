import { expect, test } from 'vitest'
import { nextTick, ref } from 'vue'
import { post } from '@/api/client'
import { useAction } from '@/composables/useAction'
import { usePendingField } from '@/composables/usePendingFields'
import { later, living, problem, serve } from './support'

const form = (name: string) => post('/api/forms', { body: { name, figures: [], levels: [] } })

test('a press while it is under way is the same press', async () => {
  const gate = later<void>()
  const asked = serve(async () => {
    await gate.promise
    return { status: 201, body: { id: 4 } }
  })
  const made: number[] = []
  const action = living(() =>
    useAction(
      () => form('A'),
      (answer) => made.push(answer.id),
    ),
  )
  const first = action.run()
  expect(action.busy.value).toBe(true)
  expect(await action.run()).toBe(false)
  gate.give()
  expect(await first).toBe(true)
  expect(asked).toHaveLength(1)
  expect(made).toEqual([4])
})

test('the same again has the same key, something else another', async () => {
  const asked = serve(() => ({ status: 201, body: { id: 1 } }))
  const name = ref('A')
  const action = living(() => useAction(() => form(name.value)))
  await action.run()
  await action.run()
  name.value = 'B'
  await action.run()
  expect(asked[1]?.key).toBe(asked[0]?.key)
  expect(asked[2]?.key).not.toBe(asked[0]?.key)
})

test('where the same again is meant, every press has a key of its own', async () => {
  const asked = serve(() => ({ status: 201, body: { id: 1 } }))
  const action = living(() => useAction(() => form('A'), undefined, { repeats: true }))
  await action.run()
  await action.run()
  expect(asked[0]?.key).not.toBe(asked[1]?.key)
})

test('what is refused is told and tried again under the same key', async () => {
  let status = 422
  const asked = serve(() =>
    status === 422 ? problem(422, 'a form wants a name') : { status, body: { id: 1 } },
  )
  const action = living(() => useAction(() => form('')))
  expect(await action.run()).toBe(false)
  expect(action.problem.value?.detail).toBe('a form wants a name')
  status = 201
  expect(await action.run()).toBe(true)
  expect(action.problem.value).toBeUndefined()
  expect(asked[0]?.key).toBe(asked[1]?.key)
})

test('a key that was kept after all is not used for another write', async () => {
  const asked = serve(() => problem(409, 'saved already', 'urn:yardwand:key-used'))
  const action = living(() => useAction(() => form('A')))
  await action.run()
  await action.run()
  expect(asked[0]?.key).not.toBe(asked[1]?.key)
})

test('a form that is opened again is another action', async () => {
  const asked = serve(() => ({ status: 201, body: { id: 1 } }))
  const open = ref(true)
  const action = living(() => useAction(() => form('A'), undefined, { opens: open }))
  await action.run()
  open.value = false
  await nextTick()
  open.value = true
  await nextTick()
  await action.run()
  expect(asked[0]?.key).not.toBe(asked[1]?.key)
})

test('nothing is sent before every field is read, nor while one cannot be', async () => {
  const asked = serve(() => ({ status: 201, body: { id: 1 } }))
  let reads = false
  let focused = 0
  living(() => usePendingField({ read: async () => reads, focus: () => (focused += 1) })).hold()
  const action = living(() => useAction(() => form('A')))
  expect(await action.run()).toBe(false)
  expect([asked.length, focused]).toEqual([0, 1])
  reads = true
  expect(await action.run()).toBe(true)
})

test('where there is nothing to do, nothing is sent', async () => {
  const asked = serve(() => ({ status: 204 }))
  const action = living(() => useAction(() => undefined))
  expect(await action.run()).toBe(false)
  expect(asked).toHaveLength(0)
})
