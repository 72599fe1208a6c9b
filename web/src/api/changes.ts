/** What was saved: the tabs of one browser tell each other, and this one's caches hear of it as well. */

/** Every tab hears it but the one that speaks. */
export const channel = new BroadcastChannel('yardwand')

const listeners = new Set<() => void>()
const tellHere = () => listeners.forEach((hear) => hear())
channel.addEventListener('message', tellHere)

/** Hears of everything that is saved, here or in another tab, for as long as the application runs. */
export const whenSaved = (hear: () => void): void => void listeners.add(hear)

/** Tells the other tabs, and whoever listens here, that something was saved here. */
export function saved(): void {
  tellHere()
  channel.postMessage('saved')
}
