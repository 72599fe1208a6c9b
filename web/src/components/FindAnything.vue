<script setup lang="ts">
/**
 * One field finds anything, from anywhere, by `/`: clients by any part of name, number or note, garments, blocks, pages,
 * and on a garment the alterations that can be added to it.
 */
import { useEventListener } from '@vueuse/core'
import { ElAutocomplete, ElDialog } from 'element-plus'
import { ref, useTemplateRef } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { RouteLocationRaw } from 'vue-router'
import { get, send } from '@/api/client'
import type { FoundView } from '@/api/types'
import { isTyping } from '@/keys'

interface Hit {
  /** What the field shows when it is chosen. */
  value: string
  kind: string
  detail: string
  to: RouteLocationRaw
}

const route = useRoute()
const router = useRouter()
const open = ref(false)
const sought = ref('')
/** What was looked for last and nothing was found of; an answer is waited for otherwise. */
const missed = ref<string>()
const field = useTemplateRef<{ focus: () => void }>('field')

const KINDS = { client: 'Client', garment: 'Garment', block: 'Block', alteration: 'Alteration' } as const

/** Where something that was found is looked at; nowhere where it belongs to a garment and none is open. */
function placeOf({ kind, key }: FoundView): RouteLocationRaw | undefined {
  const id = Number(key)
  switch (kind) {
    case 'client':
      return { name: 'client', params: { id } }
    case 'garment':
      return { name: 'story', params: { id } }
    case 'block':
      return { name: 'block', params: { id } }
    case 'alteration':
      return route.path.startsWith('/garments/')
        ? { name: 'alter', params: { id: String(route.params['id']) }, query: { add: key } }
        : undefined
  }
}

/** Without accents and in small letters. */
const plain = (text: string) => text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase()

/** Pages that stand by themselves, by their titles. */
function pagesOf(text: string): Hit[] {
  const words = plain(text).split(/\s+/).filter(Boolean)
  return router.getRoutes().flatMap(({ path, name, meta }) => {
    const title = String(meta['title'] ?? '')
    const isPage = name && title && !path.includes(':') && !['sign-in', 'tape'].includes(String(name))
    return isPage && words.every((word) => plain(title).includes(word))
      ? [{ value: title, kind: 'Page', detail: '', to: { name } }]
      : []
  })
}

/** What the hits that are shown were found for: while more is typed they are the hits of something else. */
let shownFor: string | undefined
/** Enter was pressed before there were hits: the first of them is meant. */
let isHurried = false

async function find(text: string, show: (hits: Hit[]) => void): Promise<void> {
  missed.value = undefined
  const result = text.trim() ? await send(get('/api/find', { params: { query: { q: text } } })) : undefined
  // An answer that was overtaken is not shown.
  if (text !== sought.value) return
  const found = (result?.ok ? result.value : []).flatMap((each): Hit[] => {
    const to = placeOf(each)
    return to ? [{ value: each.title, kind: KINDS[each.kind], detail: each.detail, to }] : []
  })
  const hits = text.trim() ? [...found, ...pagesOf(text)] : []
  if (text.trim() && !hits.length) missed.value = text
  shownFor = text
  show(hits)
  if (isHurried && hits[0]) choose(hits[0])
  isHurried = false
}

/** Enter goes to what is typed, not to the hits of what was typed before. */
function hurry(event: KeyboardEvent): void {
  if (shownFor === sought.value) return
  event.preventDefault()
  event.stopPropagation()
  isHurried = true
}

function begin(): void {
  sought.value = ''
  missed.value = undefined
  shownFor = ''
  isHurried = false
  open.value = true
}

/** Where it goes when the dialog has given the focus back: what is begun there takes it. */
let chosen: RouteLocationRaw | undefined
function choose({ to }: Record<string, unknown> | Hit): void {
  chosen = to as RouteLocationRaw
  open.value = false
}
async function goTo(): Promise<void> {
  const to = chosen
  chosen = undefined
  if (to) await router.push(to)
}

useEventListener(document, 'keydown', (event) => {
  if (event.key !== '/' || event.ctrlKey || event.metaKey || event.altKey || isTyping(event)) return
  event.preventDefault()
  if (!open.value) begin()
})
</script>

<template>
  <button type="button" class="quiet" aria-keyshortcuts="/" @click="begin">Find</button>
  <ElDialog
    v-model="open"
    title="Find anything"
    width="min(560px, 94vw)"
    top="10vh"
    append-to-body
    :lock-scroll="false"
    @opened="field?.focus()"
    @closed="goTo"
  >
    <div class="field" @keydown.enter.capture="hurry">
      <label for="find">A name, a number, a word of a note</label>
      <ElAutocomplete
        id="find"
        ref="field"
        v-model="sought"
        :fetch-suggestions="find"
        :debounce="150"
        :trigger-on-focus="false"
        highlight-first-item
        hide-loading
        clearable
        autocomplete="off"
        @select="choose"
      >
        <template #default="{ item }">
          <span class="hit">
            <span>
              <strong>{{ item.value }}</strong>
              <span v-if="item.detail" class="soft detail">{{ item.detail }}</span>
            </span>
            <span class="small soft">{{ item.kind }}</span>
          </span>
        </template>
      </ElAutocomplete>
    </div>
    <p role="status" class="soft missed">
      {{ missed ? `Nothing in the book holds “${missed}”.` : '' }}
    </p>
  </ElDialog>
</template>

<style scoped>
.hit {
  display: flex;
  justify-content: space-between;
  gap: 1rem;
  align-items: baseline;
}
.hit > span:first-child {
  overflow: hidden;
  text-overflow: ellipsis;
}
.detail {
  margin-left: 0.6rem;
}
.missed {
  min-height: 1.5rem;
  margin-top: 0.6rem;
}
</style>
