import { flushPromises } from '@vue/test-utils'
import { expect, onTestFinished, test } from 'vitest'
import { effectScope } from 'vue'
import { post } from '@/api/client'
import { useUndo } from '@/composables/useUndo'
import { pressUndo, problem, serve } from './support'
import type { Asked, Reply } from './support'

const back = post('/api/notes/{id}/restore', { params: { path: { id: 7 } } })
const notices = () =>
  [...document.querySelectorAll<HTMLElement>('.el-notification')].filter((each) => each.isConnected)
const shown = () => notices().map((each) => each.textContent.trim())

function page(answer: (asked: Asked) => Reply) {
  const asked = serve(answer)
  const scope = effectScope()
  onTestFinished(() => {
    scope.stop()
    document.body.innerHTML = ''
  })
  return { asked, scope, undo: scope.run(useUndo)! }
}

test('what was taken away is said with a way back, and brought back once', async () => {
  const { asked, undo } = page(() => ({ status: 204 }))
  let heard = 0
  undo('The note is taken out.', back, () => (heard += 1))
  await flushPromises()
  expect(shown()).toEqual(['The note is taken out. Undo'])
  await pressUndo()
  expect(asked.map(({ method, path }) => `${method} ${path}`)).toEqual(['POST /api/notes/7/restore'])
  expect(asked[0]!.key).toBeTruthy()
  expect(heard).toBe(1)
})

test('what cannot be brought back says why', async () => {
  const { undo } = page(() => problem(409, 'this round is closed'))
  let heard = 0
  undo('It is taken out.', back, () => (heard += 1))
  await flushPromises()
  await pressUndo()
  expect(heard).toBe(0)
  expect(shown().some((each) => each.includes('this round is closed'))).toBe(true)
})
