import { computed, reactive, ref, shallowRef } from 'vue'
import { get, post, send } from '@/api/client'
import { useCatalogue } from './useCatalogue'
import { useOutbox } from './useOutbox'
import { useResource } from './useResource'
import { useSessionEvents } from './useSessionEvents'
import type { EntryView, Problem, SessionRowView, Side, Taken, TapeView } from '@/api/types'

/** A reading as it is about to be sent. */
export interface ReadingDraft {
  code: string
  side: Side
  text: string
  taken: Taken | null
  note: string
  stands: string | null
  again: boolean
  saw: number | null
}

export interface UseMeasuringOptions {
  /** A reading was turned down; what was typed comes back. */
  refused: (draft: ReadingDraft, problem: Problem) => void
  /** The button of the tape was pressed. */
  held: (tape: TapeView) => void
}

/** One session: its rows as they stand at the server, what waits on this device, and what happens elsewhere. */
export function useMeasuring(id: () => number | undefined, options: UseMeasuringOptions) {
  /** The parameters of the session's addresses. */
  function at() {
    const now = id()
    return now === undefined ? undefined : { path: { id: now } }
  }
  const {
    data: session,
    problem: unread,
    reload,
  } = useResource(() => {
    const params = at()
    return params && get('/api/sessions/{id}', { params })
  })
  const { catalogue } = useCatalogue()
  const problem = shallowRef<Problem>()
  const saved = ref('')
  const rows = computed<readonly SessionRowView[]>(() => session.value?.rows ?? [])

  /** The newest take this device has written, by measurement and side: it has not overtaken itself. */
  const own = reactive(new Map<string, number>())
  const placeOf = (body: Record<string, unknown>) => `${String(body['code'])} ${String(body['side'])}`

  const outbox = useOutbox(() => (id() === undefined ? undefined : `session-${id()}`), {
    ready: ({ body }) => {
      const last = own.get(placeOf(body))
      if (last !== undefined && last > Number(body['saw'] ?? 0)) body['saw'] = last
    },
    sent: (entry, answer) => {
      const id = (answer as { id?: number } | undefined)?.id
      if (id !== undefined) own.set(placeOf(entry.body), id)
      saved.value = `${nameOf(String(entry.body['code']))} saved`
      problem.value = undefined
    },
    refused: (entry, why) => {
      problem.value = why
      if (entry.path.endsWith('/readings')) options.refused(entry.body as unknown as ReadingDraft, why)
    },
  })
  const waiting = computed(() => {
    const readings = outbox.waiting.value.filter((entry) => entry.path.endsWith('/readings'))
    return new Map(readings.map((entry) => [String(entry.body['code']), String(entry.body['text'])]))
  })
  /** Taken: at the server as last read, written since by this device, or waiting here for the line. */
  const isTaken = ({ entries, measurement: { code } }: SessionRowView) =>
    entries.length > 0 ||
    waiting.value.has(code) ||
    [...own.keys()].some((place) => place.startsWith(`${code} `))
  const events = useSessionEvents(id, {
    changed: (changes) => {
      if (session.value && session.value.changes !== changes) void reload()
    },
    held: options.held,
  })

  const nameOf = (code: string) =>
    catalogue.value?.measurements.find(({ measurement }) => measurement.code === code)?.measurement.name ??
    'The reading'
  const entryOf = (row: SessionRowView | undefined, side: Side): EntryView | undefined =>
    row?.entries.find((entry) => entry.side === side)

  /** Keeps a reading, now or when the line is back. */
  async function record(draft: ReadingDraft): Promise<void> {
    problem.value = undefined
    const params = at()
    if (!params) return
    await outbox.send(post('/api/sessions/{id}/readings', { params, body: { ...draft } }))
    if (outbox.waiting.value.length === 0) await reload()
  }

  async function skip(code: string, reason: string): Promise<void> {
    const params = at()
    if (!params) return
    await outbox.send(post('/api/sessions/{id}/skips', { params, body: { code, reason } }))
    if (outbox.waiting.value.length === 0) await reload()
  }

  async function sign(name: string): Promise<boolean> {
    const params = at()
    if (!params) return false
    const result = await send(post('/api/sessions/{id}/close', { params, body: { signed: name } }))
    problem.value = result.ok ? undefined : result.problem
    return result.ok
  }

  return {
    session,
    unread,
    problem,
    rows,
    saved,
    waiting,
    outbox,
    ...events,
    entryOf,
    isTaken,
    record,
    skip,
    sign,
    reload,
  }
}
