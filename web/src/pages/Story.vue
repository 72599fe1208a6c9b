<script setup lang="ts">
/** The story of a garment, round by round: what was seen, why, what was changed by how much, what it did. */
import { ElButton } from 'element-plus'
import { computed, ref, shallowRef } from 'vue'
import { RouterLink } from 'vue-router'
import { get, post, remove } from '@/api/client'
import type { RoundStory, StoryLink } from '@/api/types'
import PageFrame from '@/components/PageFrame.vue'
import CoursePlot from '@/components/story/CoursePlot.vue'
import StoryChapters from '@/components/story/StoryChapters.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import { changeOf } from '@/figures'
import { useAction } from '@/composables/useAction'
import { useHouse } from '@/composables/useHouse'
import { useOrder } from '@/composables/useOrder'
import { useResource } from '@/composables/useResource'
import { asDay } from '@/days'

const { unit, stageName } = useHouse()
const { data: order } = useOrder()
/** The parameters of the garment's addresses. */
const at = () => order.value && { path: { id: order.value.id } }
const { data: story, problem } = useResource(() => {
  const params = at()
  return params && get('/api/orders/{id}/story', { params })
})
const shows = ref(false)
const { data: forClient } = useResource(() => {
  const params = shows.value && at()
  return params ? get('/api/orders/{id}/story/client', { params }) : undefined
})
const pdf = computed(() => `/api/orders/${order.value?.id}/story.pdf`)
const link = shallowRef<StoryLink>()
const ended = ref(false)

const warnings = computed(
  () => story.value?.courses.flatMap(({ said, warning }) => (warning ? `${said}. ${warning}` : [])) ?? [],
)
const BECAME = { gone: 'gone', better: 'better', same: 'the same', worse: 'worse', moved: 'moved' } as const
const address = computed(() => (link.value ? new URL(link.value.path, location.href).href : ''))
const changes = (round: RoundStory) =>
  round.changed.map((row) => `${row.name} ${(row.change?.mm ?? 0) > 0 ? '+' : ''}${changeOf(row)}`).join(', ')

const { run: share, problem: unshared } = useAction(
  () => {
    const params = at()
    return params && post('/api/orders/{id}/story/link', { params })
  },
  (answer) => {
    link.value = answer
    ended.value = false
  },
  { repeats: true },
)

const { run: unshare, problem: unended } = useAction(
  () => {
    const params = at()
    return params && remove('/api/orders/{id}/story/link', { params })
  },
  () => {
    link.value = undefined
    ended.value = true
  },
)
</script>

<template>
  <PageFrame title="The story of this garment" width="bench" :problem="problem" :reading="!story">
    <template v-if="story" #actions>
      <span class="row no-print">
        <a class="el-button" :href="pdf">Story as PDF</a>
        <a class="el-button" :href="`${pdf}?client=true`">Her copy as PDF</a>
        <ElButton :aria-pressed="shows" @click="shows = !shows">As she reads it</ElButton>
      </span>
    </template>
    <template v-if="story">
      <ProblemNote :problem="unshared ?? unended" />
      <section v-if="shows && forClient" class="card stack" aria-labelledby="hers-title">
        <div class="between">
          <h2 id="hers-title">As {{ forClient.client }} reads it</h2>
          <div class="row">
            <ElButton v-if="story.may_be_shown" type="primary" @click="share">Make her a link</ElButton>
            <ElButton v-if="story.may_be_shown" @click="unshare">End all links</ElButton>
            <p v-else class="small soft">
              The house shows no stories to clients;
              <RouterLink :to="{ name: 'house' }">House</RouterLink> turns it on.
            </p>
          </div>
        </div>
        <p v-if="link" role="status">
          <label for="story-link">Her link, until {{ asDay(link.until) }}. It is shown once:</label>
          <input id="story-link" class="plain" type="text" readonly :value="address" />
        </p>
        <p v-if="ended" role="status">No link leads to this story any more.</p>
        <StoryChapters :story="forClient" />
      </section>
      <section v-if="story.shaped.length" class="card stack" aria-labelledby="shaped-title">
        <h2 id="shaped-title">What she wished</h2>
        <ul class="plain-list">
          <li v-for="(each, index) in story.shaped" :key="index">
            <b>{{ each.name }}</b><span v-if="each.version > 1" class="soft"
              >, from version {{ each.version }}</span
            ><template v-if="each.says">: {{ each.says }}</template>
          </li>
        </ul>
      </section>
      <p v-if="!story.rounds.length" class="soft">
        No fitting yet. Ordered {{ asDay(story.ordered_at) }}; its rounds will be told here one by one.
      </p>
      <template v-else>
        <section class="card stack" aria-labelledby="course-title">
          <h2 id="course-title">From round to round</h2>
          <CoursePlot :story="story" />
          <p v-for="warning in warnings" :key="warning" class="decide">{{ warning }}</p>
        </section>
        <article
          v-for="round in story.rounds"
          :key="round.id"
          class="card stack"
          :aria-label="`Round ${round.number}`"
        >
          <div class="between">
            <h2>
              <RouterLink :to="{ name: 'round', params: { id: story.order.id, round: round.id } }"
                >Round {{ round.number }}</RouterLink
              >
            </h2>
            <p class="soft">
              {{ asDay(round.on) }}, version {{ round.version }}, {{ stageName(round.stage) }}, {{ round.by
              }}{{ round.closed ? '' : ', still open' }}
            </p>
          </div>
          <p v-if="round.worn" class="small soft">Worn: {{ round.worn }}</p>
          <ul v-if="round.became.length" class="plain-list became">
            <li v-for="(became, index) in round.became" :key="index">
              {{ became.said }}: <b :class="{ decide: became.mark === 'worse' }">{{ BECAME[became.mark] }}</b>
            </li>
          </ul>
          <table v-if="round.seen.length">
            <thead>
              <tr>
                <th scope="col">Seen</th>
                <th scope="col" class="num">Per half, {{ unit }}</th>
                <th scope="col">Decided</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="seen in round.seen" :key="seen.id">
                <th scope="row">
                  {{ seen.said }}
                  <span v-if="seen.seen.note" class="soft small note">{{ seen.seen.note }}</span>
                </th>
                <td class="num">{{ seen.pins?.per_half.text ?? '' }}</td>
                <td :class="{ decide: !seen.decided }">{{ seen.decided ?? 'Not decided' }}</td>
              </tr>
            </tbody>
          </table>
          <p v-else class="soft">Nothing new was seen.</p>
          <p v-for="line in round.lines" :key="line.line" class="small line">
            <b>{{ line.name }}:</b>
            {{ line.read ? (line.read.level ? 'level.' : line.read.says.join(' ')) : 'one height only.' }}
          </p>
          <div v-if="round.photographs.length" class="row">
            <a v-for="each in round.photographs" :key="each.id" :href="`/api/photographs/${each.id}`">
              <img
                :src="`/api/photographs/${each.id}`"
                alt="Photograph of this round"
                class="thumb"
                loading="lazy"
              />
            </a>
          </div>
          <p v-if="round.comfort">“{{ round.comfort }}”</p>
          <p v-if="round.made_version">
            It made <b>version {{ round.made_version }}</b
            >{{ changes(round) ? `: ${changes(round)}.` : '.' }}
            <RouterLink
              class="small no-print"
              :to="{ name: 'alter', params: { id: story.order.id }, query: { shown: 'beside' } }"
              >Lay versions over each other</RouterLink
            >
          </p>
        </article>
        <p v-if="story.order.finished_at">Handed over on {{ asDay(story.order.finished_at) }}.</p>
      </template>
    </template>
  </PageFrame>
</template>

<style scoped>
article.stack {
  gap: 0.6rem;
}
.note {
  display: block;
}
.became {
  list-style: none;
  margin: 0;
  padding: 0;
}
.line b {
  display: inline-block;
}
.line b::first-letter {
  text-transform: uppercase;
}
.thumb {
  height: 6rem;
  width: auto;
  border: 1px solid var(--rule);
}
table th[scope='row'] {
  width: 42%;
}
@media (max-width: 700px) {
  table,
  tbody,
  tr,
  td,
  table th[scope='row'] {
    display: block;
    width: auto;
    text-align: left;
    border: 0;
  }
  thead {
    display: none;
  }
  tr {
    border-bottom: 1px solid var(--rule);
    padding: 0.3rem 0;
  }
}
.plain-list {
  margin: 0;
}
</style>
