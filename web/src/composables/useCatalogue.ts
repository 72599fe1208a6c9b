import { get } from '@/api/client'
import { useResource } from './useResource'

/** Everything that can be measured, the named sets and the schools: one read for all that ask. */
export function useCatalogue() {
  const { data: catalogue, problem, reload } = useResource(get('/api/catalogue'), { lasts: true })
  return { catalogue, problem, reload }
}
