import { defineConfig, mergeConfig } from 'vitest/config'
import vite from './vite.config.ts'

export default mergeConfig(
  vite,
  defineConfig({
    test: {
      include: ['tests/**/*.test.ts'],
      environment: 'happy-dom',
      // A browser test may be using the machine at the same time.
      testTimeout: 60_000,
      environmentOptions: { happyDOM: { url: 'http://localhost:3000' } },
      // Element Plus is written for a bundler.
      server: { deps: { inline: ['element-plus'] } },
    },
  }),
)
