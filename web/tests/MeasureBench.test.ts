import { flushPromises, mount } from '@vue/test-utils'
import { beforeEach, expect, test, vi } from 'vitest'
import type { Craft } from '@/api/types'
import MeasureBench from '@/components/measure/MeasureBench.vue'
import { useHouse } from '@/composables/useHouse'
import { addresses, clearedAfterwards, problem, serve, shown, signedIn } from './support'
import type { Asked, Reply } from './support'

vi.spyOn(console, 'warn').mockImplementation(() => {})
/** Nobody else is at work in these tests. */
class Silent {
  addEventListener() {}
  close() {}
}

const measurement = (code: string, name: string, sides = false) => ({
  code,
  name,
  sides,
  how: `How ${name} is taken.`,
  mistake: 'slack',
  tape: { view: 'front' },
})
/** A session of three readings; what was taken stands in `taken`. */
function session(taken: Record<string, string>, over: object = {}) {
  const entry = (code: string) => ({
    side: 'both',
    figure: shown(0, taken[code]),
    findings: [],
    corrected: [],
    stands: null,
    takes: [{ id: 100, typed: taken[code], taken: null, note: '' }],
  })
  const row = (code: string, name: string, sides = false) => ({
    measurement: measurement(code, name, sides),
    entries: code in taken ? [entry(code)] : [],
    previous: [],
    skipped: null,
    house_way: { schools: {} },
  })
  return {
    id: 4,
    unit: 'inch',
    changes: 1,
    closed_at: null,
    foundation: '',
    foundation_before: '',
    rows: [row('bust', 'Bust'), row('waist', 'Waist'), row('sleeve', 'Sleeve', true)],
    ...over,
  }
}

beforeEach(() => {
  vi.stubGlobal('EventSource', Silent)
  localStorage.clear()
  useHouse().craft.value = {
    sides: ['both', 'left', 'right'].map((side) => ({ side, name: side, behind_a_name: '' })),
  } as unknown as Craft
})

async function bench(
  taken: Record<string, string> = {},
  answer: (asked: Asked) => Reply | undefined = () => undefined,
) {
  signedIn('readings')
  const asked = serve((each) => {
    const own = answer(each)
    if (own) return own
    if (each.path === '/api/catalogue') return { body: { measurements: [], sets: [], schools: [] } }
    if (each.path.endsWith('/check')) return { body: { fault: null, findings: [] } }
    if (each.path.endsWith('/readings')) {
      const { code, text } = each.body as { code: string; text: string }
      taken[code] = text
      return { body: { id: 101 } }
    }
    return { body: session(taken) }
  })
  const wrapper = mount(MeasureBench, {
    attachTo: document.body,
    props: { sessionId: 4 },
    global: { plugins: [addresses()], stubs: { FigurePicture: true } },
  })
  clearedAfterwards(wrapper)
  await flushPromises()
  const type = async (text: string) => {
    await wrapper.get('#reading').setValue(text)
    await flushPromises()
  }
  const enter = async () => {
    await wrapper.get('#reading').trigger('keydown', { key: 'Enter' })
    await flushPromises()
  }
  const heading = () => wrapper.get('h1').text()
  const written = () => asked.filter(({ path }) => path.endsWith('/readings'))
  const field = () => wrapper.get<HTMLInputElement>('#reading').element
  return { wrapper, asked, type, enter, heading, written, field }
}

test('it begins at what is open, and Enter keeps a reading and goes to the next that is', async () => {
  const { type, enter, heading, written, field } = await bench({ bust: '36' })
  expect(heading()).toBe('Waist')
  await type('28 1/2')
  await enter()
  expect(written()).toMatchObject([{ body: { code: 'waist', side: 'both', text: '28 1/2', saw: 0 } }])
  expect([heading(), field().value, document.activeElement === field()]).toEqual(['Sleeve', '', true])
})

test('after the last reading Enter looks it all over', async () => {
  const { type, enter, wrapper } = await bench({ bust: '36', waist: '28' })
  await type('23')
  await enter()
  await enter()
  expect(wrapper.get('h1').text()).toBe('Before it is signed')
})

test('what cannot be read stays in its field and is not sent', async () => {
  const fault = 'x is not part of a length'
  const { type, enter, heading, written, wrapper, field } = await bench({}, ({ path }) =>
    path.endsWith('/check') ? { body: { fault, findings: [] } } : undefined,
  )
  await type('3x')
  await enter()
  expect([heading(), written().length, field().value]).toEqual(['Bust', 0, '3x'])
  expect(wrapper.text()).toContain(fault)
})

test('what cannot be a body is kept only with initials behind it', async () => {
  const stop = { grade: 'stop', kind: 'range', says: 'No body is so small.', remedy: 'measure again' }
  const { type, enter, written, wrapper } = await bench({}, ({ path, body }) =>
    path.endsWith('/check') ? { body: { fault: null, findings: [stop], read: body } } : undefined,
  )
  await type('3')
  await enter()
  expect(written()).toHaveLength(0)
  expect(document.activeElement?.id).toBe('impossible')
  await wrapper.get('#impossible').setValue('MH')
  await wrapper.get('#impossible').trigger('keydown', { key: 'Enter' })
  await flushPromises()
  expect(written()).toMatchObject([{ body: { text: '3', stands: 'MH' } }])
})

test('a doubt of what was typed before does not stop what stands there now', async () => {
  const stop = { grade: 'stop', kind: 'range', says: 'No body is so small.', remedy: 'measure again' }
  const { type, enter, written } = await bench({}, ({ path, body }) => {
    if (!path.endsWith('/check')) return undefined
    const { text } = body as { text: string }
    return { body: { fault: null, findings: text === '3' ? [stop] : [] } }
  })
  await type('3')
  await type('36')
  await enter()
  expect(written()).toMatchObject([{ body: { text: '36', stands: null } }])
})

test('her left is followed by her right', async () => {
  const { type, enter, written, heading, wrapper } = await bench({ bust: '36', waist: '28' })
  expect(heading()).toBe('Sleeve')
  await wrapper.get('input[value=left]').setValue()
  await type('23')
  await enter()
  expect(heading()).toBe('Sleeve')
  await type('23 1/4')
  await enter()
  expect(written()).toMatchObject([
    { body: { side: 'left', text: '23' } },
    { body: { side: 'right', text: '23 1/4' } },
  ])
})

test('letters are commands only while nothing is typed', async () => {
  const { wrapper, heading, type } = await bench({ bust: '36' })
  const key = async (pressed: string) => {
    await wrapper.get('#reading').trigger('keydown', { key: pressed })
    await flushPromises()
  }
  await key('b')
  expect(heading()).toBe('Bust')
  await type('3')
  await key('s')
  expect(wrapper.find('#reason').exists()).toBe(false)
  await type('')
  await key('s')
  expect(wrapper.find('#reason').exists()).toBe(true)
})

test('what the server turns down comes back into its field with the reason', async () => {
  let refuses = true
  const { type, enter, heading, field, wrapper } = await bench({}, ({ path }) =>
    refuses && path.endsWith('/readings')
      ? problem(422, 'this was taken by somebody else meanwhile')
      : undefined,
  )
  await type('36')
  await enter()
  await flushPromises()
  expect([heading(), field().value]).toEqual(['Bust', '36'])
  expect(wrapper.get('[role=alert]').text()).toContain('This was taken by somebody else meanwhile')
  refuses = false
  await enter()
  expect(heading()).toBe('Waist')
  expect(wrapper.find('[role=alert]').exists()).toBe(false)
})

test('without a line a reading is kept on the device, and the next can be taken', async () => {
  const { type, enter, heading, wrapper } = await bench({}, ({ path }) =>
    path.endsWith('/readings') ? 'lost' : undefined,
  )
  await type('36')
  await enter()
  await vi.waitFor(() => expect(wrapper.text()).toContain('No connection: one reading is kept'), {
    timeout: 15_000,
  })
  expect(heading()).toBe('Waist')
  expect(wrapper.text()).toContain('1 of 3 taken')
}, 20_000)

test('a signed session is read, not written', async () => {
  const { wrapper, written } = await bench({}, ({ path }) =>
    path === '/api/sessions/4'
      ? { body: session({ bust: '36', waist: '28', sleeve: '23' }, { closed_at: '2026-11-01T10:00:00Z' }) }
      : undefined,
  )
  expect(wrapper.find('#reading').exists()).toBe(false)
  expect(wrapper.text()).not.toContain('Save and next')
  expect(written()).toHaveLength(0)
})
