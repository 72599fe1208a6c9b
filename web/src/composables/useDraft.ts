import { computed, reactive, ref, shallowRef, watch } from 'vue'
import { get, post, send } from '@/api/client'
import type { DraftPreview, DraftSource, MethodKind, Problem } from '@/api/types'
import { useResource } from './useResource'

/** What is drafted, and how: every change draws anew; nothing is kept here. */
export function useDraft(client: () => number | undefined, form: () => number | undefined) {
  const { data: drafting, problem: unread, reload } = useResource(get('/api/drafting'))
  const choice = reactive({
    kind: 'direct' as MethodKind,
    house_method: undefined as number | undefined,
    with_sleeve: false,
    ease_set: undefined as string | undefined,
    table: 'medium',
    size: '',
    beside: '' as MethodKind | '',
    /** What it measures is asked for only while it is looked at. */
    measures: false,
  })
  const constants = ref<Record<string, string>>({})
  const draft = shallowRef<DraftPreview>()
  const problem = shallowRef<Problem>()

  const table = computed(() => drafting.value?.tables.find((each) => each.code === choice.table))
  const size = computed(() => {
    const sizes = table.value?.sizes ?? []
    return sizes.includes(choice.size) ? choice.size : sizes[Math.floor(sizes.length / 2)]
  })
  const method = computed(() => ({
    kind: choice.kind,
    house_method: choice.house_method ?? null,
    with_sleeve: choice.with_sleeve,
    constants: constants.value,
  }))
  const ask = computed(() => {
    const [of, on] = [client(), form()]
    const source: DraftSource | undefined =
      of !== undefined
        ? { from: 'client', client: of }
        : on !== undefined
          ? { from: 'form', form: on }
          : size.value
            ? { from: 'table', table: choice.table, size: size.value }
            : undefined
    return (
      source && {
        source,
        method: method.value,
        ease_set: choice.ease_set ?? null,
        beside: choice.beside || null,
        measures: choice.measures,
      }
    )
  })

  let running: AbortController | undefined
  watch(
    ask,
    async (wanted) => {
      running?.abort()
      if (!wanted) return
      const { signal } = (running = new AbortController())
      const result = await send(post('/api/drafting/preview', { body: wanted }), { signal })
      if (signal.aborted) return
      problem.value = result.ok ? undefined : result.problem
      // What was drawn stays to be looked at while a constant is mended.
      if (result.ok) draft.value = result.value
    },
    { immediate: true },
  )

  function takeHouseMethod(id: number | undefined): void {
    const kept = drafting.value?.methods.find((each) => each.id === id)
    choice.house_method = kept?.id
    constants.value = {}
    if (kept) {
      choice.kind = kept.kind
      choice.with_sleeve = kept.with_sleeve
    }
  }

  const sheet = computed(() => `/api/drafting/sheet.pdf?ask=${encodeURIComponent(JSON.stringify(ask.value))}`)
  return {
    drafting,
    reloadDrafting: reload,
    choice,
    constants,
    draft,
    problem: computed(() => problem.value ?? unread.value),
    table,
    size,
    method,
    sheet,
    takeHouseMethod,
  }
}
