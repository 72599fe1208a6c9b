<script setup lang="ts">
/** What a client reads by the link the workroom gave her: no sign-in, neutral words only. */
import { get } from '@/api/client'
import PageFrame from '@/components/PageFrame.vue'
import StoryChapters from '@/components/story/StoryChapters.vue'
import { useResource } from '@/composables/useResource'
import { asDay } from '@/days'

const props = defineProps<{ token: string }>()
const { data: story, problem } = useResource(() =>
  get('/api/shared/{token}', { params: { path: { token: props.token } } }),
)
</script>

<template>
  <PageFrame
    class="shared"
    :title="story?.garment ?? 'The story of a garment'"
    :problem="problem"
    :reading="!story"
  >
    <template v-if="story" #lead>
      <p class="soft">
        Made for {{ story.client }} by {{ story.house
        }}{{ story.wanted_on ? `, wanted for ${asDay(story.wanted_on)}` : '' }}.
      </p>
    </template>
    <StoryChapters v-if="story" :story="story" />
  </PageFrame>
</template>

<style scoped>
.shared {
  max-width: 40rem;
}
</style>
