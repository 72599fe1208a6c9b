import '@fontsource-variable/alegreya/wght.css'
import '@fontsource/alegreya-sans/400.css'
import '@fontsource/alegreya-sans/500.css'
import '@fontsource/alegreya-sans/700.css'
import '@/styles/parts'
import '@/styles/tokens.css'
import '@/styles/base.css'
import { createApp } from 'vue'
import App from '@/App.vue'
import { router } from '@/router'

createApp(App).use(router).mount('#app')
