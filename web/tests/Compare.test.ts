import { flushPromises } from '@vue/test-utils'
import { expect, test, vi } from 'vitest'
import Compare from '@/pages/Compare.vue'
import { garmentPage, pick, picked, problem, serve, shown, signedIn } from './support'
import type { Asked, Reply } from './support'

vi.spyOn(console, 'warn').mockImplementation(() => {})

const order = { id: 7, client_id: 3, missing: 0, pattern_id: null }
const row = (figure: string, grade: string, onBody: number) => ({
  figure,
  name: figure,
  measurement: `${figure}_reading`,
  grade,
  body: shown(100),
  ease: shown(0),
  target: shown(100),
  block: shown(100 - onBody),
  on_body: shown(onBody),
  on_pattern: shown(onBody / 2),
  carried_by: '',
})

/** What the server answers for the block, size and ease that are asked for. */
function comparison({ query }: Asked, planRevision = 1) {
  const block = Number(query['block'] ?? 1)
  return {
    block_id: block,
    size: query['size'] ?? (block === 1 ? '12' : 'own'),
    ease: { code: query['ease'] ?? 'standard', name: 'Standard block' },
    blocks: [
      { id: 1, name: 'House master', version: 2 },
      { id: 2, name: 'Her own', version: 1 },
    ],
    sizes: ['12', '14'],
    ease_sets: [{ code: 'standard', name: 'Standard block' }],
    estimated: null,
    remarks: [],
    of_block: [],
    choices: {
      why: 'Size 12 leads.',
      choices: [
        { school: 'upper_bust', size: '12', why: '', lines: ['a'], total: shown(30) },
        { school: 'bust', size: '14', why: '', lines: [], total: shown(40) },
      ],
    },
    comparison: { rows: [row('bust', 'alter', 40), row('waist', 'remeasure', -90)] },
    explanations: [],
    own_pieces: [],
    block_pieces: [],
    own_refused: '',
    plan: { lines: [{ key: 'a' }] },
    plan_revision: planRevision,
    changes: {},
  }
}

function answers(asked: Asked, planRevision = 1): Reply {
  if (asked.path === '/api/orders/7') return { body: order }
  if (asked.path === '/api/orders/7/comparison') return { body: comparison(asked, planRevision) }
  if (asked.path === '/api/orders/7/plan') return { body: { revision: 2 } }
  return { body: { id: 21 } }
}
const compared = (asked: readonly Asked[]) => asked.filter(({ path }) => path.endsWith('/comparison'))
const planned = (asked: readonly Asked[]) => asked.filter(({ method }) => method === 'PUT')

test('another block is asked for without the size that was chosen for the one before', async () => {
  signedIn('cutting')
  const asked = serve((each) => answers(each))
  await garmentPage(Compare)
  await pick('size', '14')
  expect(compared(asked).at(-1)?.query).toEqual({ size: '14' })
  await pick('block', 'Her own, version 1')
  expect(compared(asked).at(-1)?.query).toEqual({ block: '2' })
  expect(picked('size')).toBe('own')
})

test('what was planned before is not planned again; what was chosen here is, once', async () => {
  signedIn('cutting')
  const asked = serve((each) => answers(each))
  const { press, router } = await garmentPage(Compare)
  await press('To the plan: 1 line')
  expect(planned(asked)).toHaveLength(0)
  expect(router.currentRoute.value.name).toBe('plan')
  await pick('size', '14')
  void press('To the plan: 1 line')
  await press('To the plan: 1 line')
  await flushPromises()
  expect(planned(asked)).toMatchObject([
    { path: '/api/orders/7/plan', body: { revision: 1, block_id: 1, size: '14', ease_set: 'standard' } },
  ])
})

test('the first plan is kept from what leads', async () => {
  signedIn('cutting')
  const asked = serve((each) => answers(each, 0))
  const { press } = await garmentPage(Compare)
  await press('To the plan: 1 line')
  expect(planned(asked)).toMatchObject([{ body: { revision: 0, size: '12' } }])
})

test('whoever only looks is led to the plan and keeps nothing', async () => {
  signedIn('readings')
  const asked = serve((each) => answers(each, 0))
  const { press, router } = await garmentPage(Compare)
  await pick('size', '14')
  await press('To the plan: 1 line')
  expect([planned(asked).length, router.currentRoute.value.name]).toEqual([0, 'plan'])
})

test('why it was not kept is said, and one stays', async () => {
  signedIn('cutting')
  serve((each) => (each.method === 'PUT' ? problem(409, 'the plan was changed') : answers(each, 0)))
  const { press, router, wrapper } = await garmentPage(Compare)
  await press('To the plan: 1 line')
  expect(wrapper.get('[role=alert]').text()).toContain('The plan was changed')
  expect(router.currentRoute.value.name).not.toBe('plan')
})

test('a doubtful row opens a session at its reading alone', async () => {
  signedIn('readings')
  const asked = serve((each) => answers(each))
  const { wrapper, router } = await garmentPage(Compare)
  await wrapper.get('[aria-label="Measure waist again"]').trigger('click')
  await flushPromises()
  expect(asked.at(-1)).toMatchObject({ path: '/api/clients/3/sessions', body: { codes: ['waist_reading'] } })
  expect(router.currentRoute.value).toMatchObject({ name: 'session', params: { id: '21' } })
})

test('the schools stand side by side on demand, each with what it comes to', async () => {
  serve((each) => answers(each))
  const { wrapper } = await garmentPage(Compare)
  const schools = wrapper.get('details')
  expect((schools.element as HTMLDetailsElement).open).toBe(false)
  expect(schools.findAll('h3').map((each) => each.text())).toEqual([
    'By the upper bust: size 12',
    'By the bust: size 14',
  ])
  expect(schools.text()).toContain('nothing to correct')
})

test('a difference is drawn to its side, and never past the half', async () => {
  serve((each) => answers(each))
  const { wrapper } = await garmentPage(Compare)
  const [more, less] = wrapper.findAll('.bars rect').map((bar) => ({
    from: Number(bar.attributes('x')),
    width: Number(bar.attributes('width')),
  }))
  expect(more!.from).toBe(50)
  expect(more!.width).toBeCloseTo((40 / 75) * 50)
  expect(less).toEqual({ from: 0, width: 50 })
})
