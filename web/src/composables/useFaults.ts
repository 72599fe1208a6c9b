import { computed, ref } from 'vue'
import type { Check } from '@/api/types'

/** Faults of the rules that do not hold: of all of them, or of the one that is picked. */
export function useFaults(checks: () => readonly Check[]) {
  const picked = ref<string>()
  const faults = computed(() =>
    checks()
      .filter((check) => !check.passed && (picked.value === undefined || picked.value === check.code))
      .flatMap((check) => check.faults),
  )
  return { picked, faults }
}
