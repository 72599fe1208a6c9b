/// <reference lib="webworker" />
/**
 * Keeps the application itself on this device, so that it opens where there is no line. The server's own page comes first:
 * nobody works with an old one while the server can be reached. What was read of the house is kept elsewhere, in `api/kept.ts`.
 */
import { cleanupOutdatedCaches, matchPrecache, precacheAndRoute } from 'workbox-precaching'
import { NavigationRoute, registerRoute } from 'workbox-routing'

declare const self: ServiceWorkerGlobalScope
/** Every file of this build, written in when it is built; a name that says what is in it needs no revision. */
declare const SHELL: { url: string; revision: string | null }[]

/** A line that brings no page within this time is as good as none, in milliseconds. */
const PATIENCE = 4000

async function page(request: Request): Promise<Response> {
  const kept = () => matchPrecache('/index.html')
  try {
    const answer = await self.fetch(request, { signal: AbortSignal.timeout(PATIENCE) })
    // A proxy whose server is away says so in a page of its own.
    return answer.status < 500 ? answer : ((await kept()) ?? answer)
  } catch (error) {
    const answer = await kept()
    if (answer) return answer
    throw error
  }
}

precacheAndRoute(SHELL)
cleanupOutdatedCaches()
registerRoute(new NavigationRoute(({ request }) => page(request), { denylist: [/^\/api\//] }))
