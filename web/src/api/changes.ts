/** What the tabs of one browser tell each other. */

/** Every tab hears it but the one that speaks. */
export const channel = new BroadcastChannel('yardwand')

/** Tells the other tabs that something was saved here. */
export const tellOthers = (): void => channel.postMessage('saved')
