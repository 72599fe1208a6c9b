import { flushPromises, mount } from '@vue/test-utils'
import { expect, test } from 'vitest'
import DrapingGuide from '@/pages/DrapingGuide.vue'
import { addresses, clearedAfterwards, serve, shown } from './support'
import type { Asked } from './support'

const picture = {
  settled: [],
  now: ['M0 0L9 9'],
  smooth: [
    [
      { x: 1, y: 1 },
      { x: 5, y: 5 },
    ],
  ],
  pins: [],
  slashes: [],
  names: [],
}
const way = (goes: string, two: boolean, takes: string | null, doubt: string | null = null) => ({
  goes,
  name: `the ${goes}`,
  two,
  darts: takes === null ? [] : [{ place: 'waist', name: 'waist dart', takes: shown(60, takes) }],
  doubt,
})

function guide({ query }: Asked) {
  const goes = query['goes'] ?? 'side'
  return {
    of: 'Clara',
    missing: [],
    refused: null,
    guide: {
      piece: query['piece'],
      goes,
      two: query['goes'] === undefined || query['two'] === 'true',
      outline: 'M0 0L10 0L10 10Z',
      bounds: { x: 0, y: 0, width: 10, height: 10 },
      ways: [
        way('side', true, '1 1/2'),
        way('waist', false, '3', 'two darts share it better'),
        way('armhole', false, null, 'it does not fit there'),
      ],
      steps: [1, 2, 3].map((step) => ({ says: `Step of ${goes}, number ${step}.`, picture })),
    },
  }
}

async function page(query: Record<string, string> = {}) {
  const asked = serve((each) => ({ body: guide(each) }))
  const router = addresses()
  await router.push({ name: 'draping-guide', query: { client: '3', ...query } })
  const wrapper = mount(DrapingGuide, {
    attachTo: document.body,
    props: { client: 3 },
    global: { plugins: [router] },
  })
  clearedAfterwards(wrapper)
  await flushPromises()
  const press = async (name: string) => {
    await wrapper
      .findAll('button')
      .find((button) => button.text() === name)!
      .trigger('click')
    await flushPromises()
  }
  return { wrapper, router, asked, press }
}

test('what is proposed comes first with what its darts take, and a doubtful one says why', async () => {
  const { wrapper, asked } = await page()
  expect(asked.at(-1)?.query).toEqual({ client: '3', piece: 'front' })
  const ways = wrapper.findAll('.ways li')
  expect(ways[0]!.text()).toContain('the side and the waist')
  expect(ways[0]!.text()).toContain('proposed')
  expect(ways[0]!.text()).toContain('waist dart 1 1/2')
  expect(ways[1]!.text()).toContain('two darts share it better')
  const radios = wrapper.findAll<HTMLInputElement>('.ways input[name=way]')
  expect(radios.map(({ element }) => element.checked)).toEqual([true, false, false])
  expect(radios.map(({ element }) => element.disabled)).toEqual([false, false, true])
})

test('it is read step by step and stops at both ends', async () => {
  const { wrapper, press } = await page()
  expect(wrapper.get('.says').text()).toBe('Step of side, number 1.')
  for (let step = 0; step < 2; step += 1) await press('Next step')
  expect(wrapper.get('.says').text()).toBe('Step of side, number 3.')
  expect(
    wrapper
      .findAll('button')
      .find((button) => button.text() === 'Next step')!
      .attributes('disabled'),
  ).toBeDefined()
  await press('Step before')
  expect(wrapper.get('.says').text()).toBe('Step of side, number 2.')
})

test('another way stands in the address, begins at its first step and is there when it is come back to', async () => {
  const { wrapper, router, asked, press } = await page()
  await press('Next step')
  await wrapper.findAll('.ways input[name=way]')[1]!.trigger('change')
  await flushPromises()
  expect(router.currentRoute.value.query).toMatchObject({ goes: 'waist', two: 'false' })
  expect(asked.at(-1)?.query).toMatchObject({ goes: 'waist', two: 'false' })
  expect(wrapper.get('.says').text()).toBe('Step of waist, number 1.')
  const again = await page({ goes: 'waist', two: 'false' })
  expect(again.wrapper.get('.says').text()).toBe('Step of waist, number 1.')
})

test('the back forgets what was chosen for the front', async () => {
  const { wrapper, router } = await page({ goes: 'waist', two: 'false' })
  await wrapper.findAll('input[name=piece]')[1]!.trigger('change')
  await flushPromises()
  expect(router.currentRoute.value.query).toEqual({ client: '3', piece: 'back' })
})
