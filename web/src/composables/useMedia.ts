import { onScopeDispose, readonly, ref } from 'vue'
import type { Ref } from 'vue'

/** Whether a media query holds, now and whenever that changes. */
export function useMedia(query: string): Readonly<Ref<boolean>> {
  const media = matchMedia(query)
  const holds = ref(media.matches)
  const look = () => (holds.value = media.matches)
  media.addEventListener('change', look)
  onScopeDispose(() => media.removeEventListener('change', look))
  return readonly(holds)
}
