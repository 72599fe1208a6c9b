<script setup lang="ts">
/** What a client reads by the link the workroom gave her: no sign-in, neutral words only. */
import { get } from '@/api/client'
import StoryChapters from '@/components/story/StoryChapters.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import { useResource } from '@/composables/useResource'
import { asDay } from '@/days'

const props = defineProps<{ token: string }>()
const { data: story, problem } = useResource(() =>
  get('/api/shared/{token}', { params: { path: { token: props.token } } }),
)
</script>

<template>
  <main class="page stack shared" aria-labelledby="shared-title">
    <h1 v-if="!story" id="shared-title">The story of a garment</h1>
    <ProblemNote :problem="problem" />
    <template v-if="story">
      <div>
        <h1 id="shared-title">{{ story.garment }}</h1>
        <p class="soft">
          Made for {{ story.client }} by {{ story.house
          }}{{ story.wanted_on ? `, wanted for ${asDay(story.wanted_on)}` : '' }}.
        </p>
      </div>
      <StoryChapters :story="story" />
    </template>
  </main>
</template>

<style scoped>
.shared {
  max-width: 40rem;
}
</style>
