import { flushPromises, mount } from '@vue/test-utils'
import { expect, test, vi } from 'vitest'
import type { Me, PatternView } from '@/api/types'
import VersionsKept from '@/components/garment/VersionsKept.vue'
import { useHouse } from '@/composables/useHouse'
import { clearedAfterwards, problem, serve, submitDialog, typeInto } from './support'
import type { Asked, Reply } from './support'

vi.spyOn(console, 'warn').mockImplementation(() => {})

const version = (id: number, number: number, withdrawn: string | null) => ({ id, version: number, withdrawn })
const pattern = {
  versions: [version(12, 3, null), version(11, 1, null)],
  withdrawn: [version(10, 2, 'Cut too narrow')],
} as unknown as PatternView

function kept(may: Me['may'], answer: (asked: Asked) => Reply = () => ({ status: 204 })) {
  useHouse().me.value = { id: 1, name: 'Marit', role: 'owner', may } as Me
  const asked = serve(answer)
  const wrapper = mount(VersionsKept, { props: { pattern }, attachTo: document.body })
  clearedAfterwards(wrapper)
  const press = async (name: string) => {
    const found = [...document.querySelectorAll('button')].find((each) => each.textContent.trim() === name)!
    found.click()
    await flushPromises()
  }
  return { wrapper, asked, press }
}

test('the newest version is withdrawn with a reason', async () => {
  const { wrapper, asked, press } = kept(['cutting'])
  await press('Withdraw version 3')
  typeInto('withdraw-why', 'wrong size')
  await submitDialog()
  expect(asked).toMatchObject([
    { method: 'POST', path: '/api/versions/12/withdraw', body: { why: 'wrong size' } },
  ])
  expect(wrapper.emitted('changed')).toHaveLength(1)
})

test('what stands in the way is said, and nothing changes', async () => {
  const { wrapper, press } = kept(['cutting'], () => problem(409, 'this version was fitted'))
  await press('Withdraw version 3')
  await submitDialog()
  expect(document.querySelector('.el-dialog')!.textContent).toContain('This version was fitted')
  expect(wrapper.emitted('changed')).toBeUndefined()
})

test('a withdrawn version says why and can stand again; whoever only looks is offered neither', async () => {
  const { wrapper, asked, press } = kept(['cutting'])
  expect(wrapper.text()).toContain('Version 2 is withdrawn. Cut too narrow')
  await press('Let 2 stand')
  expect(asked).toMatchObject([{ method: 'DELETE', path: '/api/versions/10/withdraw' }])
  expect(kept([]).wrapper.findAll('button')).toHaveLength(0)
})
