import { flushPromises, mount } from '@vue/test-utils'
import { expect, test, vi } from 'vitest'
import type { Me, NoteView } from '@/api/types'
import ClientNotes from '@/components/client/ClientNotes.vue'
import { useHouse } from '@/composables/useHouse'
import { clearedAfterwards, pressUndo, serve } from './support'

vi.spyOn(console, 'warn').mockImplementation(() => {})

const note: NoteView = {
  id: 3,
  words: 'Likes a high neck.',
  written_by: 'Marit',
  written_at: '2026-11-02T10:00:00Z',
  photographs: [],
}

async function notes(may: Me['may'], kept: NoteView[]) {
  useHouse().me.value = { id: 1, name: 'Marit', role: 'owner', may } as Me
  const asked = serve(({ method }) => {
    if (method === 'GET') return { body: kept }
    return method === 'POST' ? { status: 201, body: { id: 4 } } : { status: 204 }
  })
  const wrapper = mount(ClientNotes, { props: { client: 2 }, attachTo: document.body })
  clearedAfterwards(wrapper)
  await flushPromises()
  return { wrapper, writes: () => asked.filter((each) => each.method !== 'GET') }
}

test('a note is kept once it says something, and its field is empty again', async () => {
  const { wrapper, writes } = await notes(['readings'], [])
  expect(wrapper.text()).toContain('None yet.')
  expect(wrapper.text()).not.toContain('Keep the note')
  await wrapper.get('textarea').setValue('Sits at the second desk.')
  await wrapper.get('form').trigger('submit')
  await flushPromises()
  expect(writes()).toMatchObject([
    { method: 'POST', path: '/api/clients/2/notes', body: { words: 'Sits at the second desk.' } },
  ])
  expect(wrapper.get('textarea').element.value).toBe('')
})

test('a note that is taken out has a way back; whoever only looks has neither', async () => {
  const { wrapper, writes } = await notes(['readings'], [note])
  const out = wrapper.findAll('button').find((each) => each.text() === 'Take out')!
  await out.trigger('click')
  await flushPromises()
  await pressUndo()
  expect(writes().map(({ method, path }) => `${method} ${path}`)).toEqual([
    'DELETE /api/notes/3',
    'POST /api/notes/3/restore',
  ])
  const reader = await notes([], [note])
  expect(reader.wrapper.findAll('button')).toHaveLength(0)
  expect(reader.wrapper.find('form').exists()).toBe(false)
})
