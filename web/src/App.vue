<script setup lang="ts">
import 'dayjs/locale/en-gb'
import { ElButton, ElConfigProvider } from 'element-plus'
import en from 'element-plus/es/locale/lang/en'
import { useIntervalFn } from '@vueuse/core'
import { computed, defineAsyncComponent, watch } from 'vue'
import { RouterLink, RouterView, useRoute, useRouter } from 'vue-router'
import { get, keptSince, otherVersion, post, send, signedOut } from '@/api/client'
import { forgetOld } from '@/api/kept'
import { queries } from '@/api/queries'
import { useHouse } from '@/composables/useHouse'
import { useTheme } from '@/composables/useTheme'
import { asMoment } from '@/days'

/** How often a lost line is looked for, in milliseconds. */
const LOOK_FOR_LINE = 4000

// The first screen does not wait for what is opened from it.
const FindAnything = defineAsyncComponent(() => import('@/components/FindAnything.vue'))
const KeySheet = defineAsyncComponent(() => import('@/components/KeySheet.vue'))
// Element Plus has English words; its weeks begin on Monday as the house's do.
const locale = { ...en, name: 'en-gb' }
const route = useRoute()
const router = useRouter()
const { me, follow, leave } = useHouse()
follow()
const { dark, toggle } = useTheme()
// What a client reads by a link has nothing of the workroom around it.
const framed = computed(
  () => me.value !== undefined && !['sign-in', 'welcome', 'shared-story'].includes(String(route.name)),
)

watch(signedOut, (out) => {
  if (!out) return
  signedOut.value = false
  leave()
  if (route.name !== 'sign-in') void router.push({ name: 'sign-in', query: { next: route.fullPath } })
})

void forgetOld()
// The application is kept on the devices of those who work here, and on nobody's who reads a story.
watch(framed, (inside) => {
  if (inside && import.meta.env.PROD && 'serviceWorker' in navigator)
    navigator.serviceWorker.register('/worker.js').catch(() => undefined)
})
// What was kept is shown only until the line is back: asked for now and then, and all that is shown is read anew with it.
useIntervalFn(() => void (keptSince.value && send(get('/api/me'), { tries: 1 })), LOOK_FOR_LINE)
watch(keptSince, (since) => void (since ?? queries.refetchQueries({ type: 'active' })))
const readAt = computed(() => keptSince.value && asMoment(keptSince.value))
const loadAnew = () => location.reload()

async function signOut(): Promise<void> {
  await send(post('/api/sign-out'))
  leave()
  await router.push({ name: 'sign-in' })
}
</script>

<template>
  <a href="#main" class="skip">Skip to the work</a>
  <header v-if="framed" class="bar no-print">
    <RouterLink :to="{ name: 'today' }" class="name">Yardwand</RouterLink>
    <nav aria-label="Workroom">
      <RouterLink :to="{ name: 'today' }">Today</RouterLink>
      <RouterLink :to="{ name: 'calendar' }">Calendar</RouterLink>
      <RouterLink :to="{ name: 'clients' }">Clients</RouterLink>
      <RouterLink :to="{ name: 'blocks' }">Blocks</RouterLink>
      <RouterLink :to="{ name: 'forms' }">Forms</RouterLink>
      <RouterLink :to="{ name: 'practice' }">Practice</RouterLink>
      <RouterLink :to="{ name: 'house' }">House</RouterLink>
    </nav>
    <div class="who">
      <FindAnything />
      <KeySheet />
      <button type="button" class="quiet" :aria-pressed="dark" @click="toggle">
        {{ dark ? 'Day' : 'Evening' }}
      </button>
      <RouterLink :to="{ name: 'me' }" class="person">{{ me?.name }}</RouterLink>
      <button type="button" class="quiet" @click="signOut">Sign out</button>
    </div>
  </header>
  <p v-if="framed && readAt" class="told no-print" role="status">
    There is no line. What was opened before is shown as it was read, the oldest of it on {{ readAt }}; what
    you write down waits on this device.
  </p>
  <p v-if="framed && otherVersion" class="told no-print" role="status">
    The server has another version of Yardwand than this page.
    <ElButton size="small" @click="loadAnew">Load the page anew</ElButton>
  </p>
  <div id="main" tabindex="-1">
    <ElConfigProvider :locale="locale"><RouterView /></ElConfigProvider>
  </div>
</template>

<style scoped>
.skip {
  position: absolute;
  left: -999px;
}
.skip:focus {
  left: 0.5rem;
  top: 0.5rem;
  z-index: 9;
  background: var(--raised);
  padding: 0.4rem 0.8rem;
}
.bar {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 0.2rem 1.6rem;
  padding: 0.65rem 1.4rem 0.55rem;
  border-bottom: 1px solid var(--rule);
  background: var(--raised);
}
.told {
  margin: 0;
  padding: 0.4rem 1.4rem;
  background: var(--madder-tint);
}
.name {
  font: 600 1.35rem var(--serif);
  text-decoration: none;
}
nav {
  display: flex;
  gap: 1.2rem;
}
nav a {
  text-decoration: none;
  padding: 0.2rem 0;
  border-bottom: 2px solid transparent;
}
nav a.router-link-active:not([href='/']),
nav a.router-link-exact-active {
  border-color: var(--madder);
}
.who {
  margin-left: auto;
  display: flex;
  gap: 1rem;
  align-items: baseline;
}
#main:focus {
  outline: none;
}
@media (max-width: 700px) {
  .told {
    padding: 0.4rem 0.9rem;
  }
  .bar {
    padding: 0.5rem 0.9rem;
    gap: 0 1rem;
  }
  .person {
    display: none;
  }
  nav {
    order: 3;
    width: 100%;
    gap: 0.4rem;
    justify-content: space-between;
    font-size: 0.97rem;
  }
  nav a {
    padding: 0.5rem 0;
  }
}
</style>
