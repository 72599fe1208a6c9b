import { expect, test } from 'vitest'
import { nextTick, ref } from 'vue'
import { useKept } from '@/composables/useKept'
import { living } from './support'

const kept = ref({ front: '30', back: '31' })
const fields = () => {
  kept.value = { front: '30', back: '31' }
  return living(() => useKept(() => ({ ...kept.value })))
}

test('what somebody else keeps comes in', async () => {
  const { entry } = fields()
  kept.value = { front: '29', back: '31' }
  await nextTick()
  expect(entry.front).toBe('29')
})

test('what is being changed here stays, and the rest comes in', async () => {
  const { entry, touch } = fields()
  entry.front = '28 1/2'
  touch('front')
  kept.value = { front: '29', back: '32' }
  await nextTick()
  expect(entry).toEqual({ front: '28 1/2', back: '32' })
})

test('what was kept comes in again, unless it was changed meanwhile', async () => {
  const { entry, touch, settle } = fields()
  entry.front = '28'
  touch('front')
  entry.front = '28 1/2'
  settle('front', '28')
  kept.value = { front: '28', back: '31' }
  await nextTick()
  expect(entry.front).toBe('28 1/2')
  settle('front', '28 1/2')
  kept.value = { front: '28 1/2', back: '31' }
  await nextTick()
  kept.value = { front: '27', back: '31' }
  await nextTick()
  expect(entry.front).toBe('27')
})

test('letting go shows what is kept', () => {
  const { entry, touch, reset } = fields()
  entry.back = '99'
  touch('back')
  reset()
  expect(entry).toEqual({ front: '30', back: '31' })
})

test('a change goes on from what was kept when it began, then from what was sent of it', async () => {
  const { entry, touch, settle, begunFrom, goesOnFrom } = fields()
  expect(begunFrom('front')).toBe('30')
  entry.front = '28'
  touch('front')
  kept.value = { front: '29', back: '31' }
  await nextTick()
  // Somebody else's text came meanwhile: it is not what this one began from.
  expect(begunFrom('front')).toBe('30')
  goesOnFrom('front', '28')
  touch('front')
  expect(begunFrom('front')).toBe('28')
  settle('front', '28')
  expect(begunFrom('front')).toBe('28')
  kept.value = { front: '27', back: '31' }
  await nextTick()
  expect([entry.front, begunFrom('front')]).toEqual(['27', '27'])
})
