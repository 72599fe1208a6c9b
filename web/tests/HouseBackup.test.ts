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
