import { shallowRef } from 'vue'
import { get, send } from '@/api/client'
import type { CatalogueView, Problem } from '@/api/types'

const catalogue = shallowRef<CatalogueView>()
const problem = shallowRef<Problem>()

/** Everything that can be measured, the named sets and the schools: read once, and again after a set has changed. */
export function useCatalogue() {
  async function reload(): Promise<void> {
    const result = await send(get('/api/catalogue'))
    problem.value = result.ok ? undefined : result.problem
    if (result.ok) catalogue.value = result.value
  }
  if (!catalogue.value) void reload()
  return { catalogue, problem, reload }
}
