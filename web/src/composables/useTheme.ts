import { ref, watchEffect } from 'vue'

const KEY = 'yardwand-theme'
const stored = localStorage.getItem(KEY)
const dark = ref(stored ? stored === 'dark' : matchMedia('(prefers-color-scheme: dark)').matches)

watchEffect(() => {
  document.documentElement.dataset.theme = dark.value ? 'dark' : 'light'
})

/** Light by day, dark for the evening; kept on this device. */
export function useTheme() {
  function toggle(): void {
    dark.value = !dark.value
    localStorage.setItem(KEY, dark.value ? 'dark' : 'light')
  }
  return { dark, toggle }
}
