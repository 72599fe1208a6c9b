import { flushPromises, mount } from '@vue/test-utils'
import { expect, test } from 'vitest'
import HouseBackup from '@/components/house/HouseBackup.vue'
import { clearedAfterwards, serve, signedIn } from './support'

async function told(last: object) {
  signedIn('housekeeping')
  serve(() => ({ body: last }))
  const wrapper = mount(HouseBackup)
  clearedAfterwards(wrapper)
  await flushPromises()
  return wrapper.text()
}
const taken = { taken_at: '2026-11-29T03:12:00Z', encrypted: true, second_place: true, overdue: false }

test('the last backup is told with its size, its key and its places', async () => {
  expect(await told({ ...taken, bytes: 12_345_678 })).toMatch(
    /taken on 29 Nov 2026, \d\d:\d\d: 12 MB, encrypted, with a copy in a second place\./,
  )
  expect(await told({ ...taken, bytes: 1_250_000, second_place: false })).toContain(
    '1.3 MB, encrypted, in one place only',
  )
  expect(await told({ ...taken, bytes: 70_400, encrypted: false })).toContain('70 kB, not encrypted')
  expect(await told({ ...taken, bytes: 12 })).toContain('1 kB')
})

test('one that is long ago is pointed out, and a house without any', async () => {
  expect(await told({ ...taken, bytes: 70_000 })).not.toContain('longer ago')
  expect(await told({ ...taken, bytes: 70_000, overdue: true })).toContain('longer ago than a week')
  const never = await told({ bytes: 0, encrypted: false, second_place: false, overdue: true })
  expect(never).toContain('This house was never backed up')
  expect(never).toContain('Nothing could be brought back')
})

test('one is taken where the server has a place for it, and told when it is done', async () => {
  signedIn('housekeeping')
  let last: object = { ...taken, bytes: 70_000, can_take: true }
  serve(({ method, path }) => {
    if (method === 'POST') return { status: 201, body: { id: 3 } }
    if (path === '/api/house/backup') return { body: last }
    last = { ...last, bytes: 1_250_000 }
    return { body: { id: 3, kind: 'backup', state: 'done', done: 40, total: 40 } }
  })
  const wrapper = mount(HouseBackup)
  clearedAfterwards(wrapper)
  await flushPromises()
  await wrapper.get('button').trigger('click')
  await flushPromises()
  expect(wrapper.text()).toContain('Done.')
  expect(wrapper.text()).toContain('1.3 MB')
  await wrapper.get('button').trigger('click')
  expect(await told({ ...taken, bytes: 1, can_take: false })).not.toContain('Take one now')
})
