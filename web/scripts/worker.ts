import { createHash } from 'node:crypto'
import { readFileSync, readdirSync } from 'node:fs'
import { join, relative } from 'node:path'
import { build } from 'vite'
import type { Plugin } from 'vite'

/** Builds the service worker after everything else, with the list of what it keeps. */
export function serviceWorker(): Plugin {
  let out = 'dist'
  return {
    name: 'yardwand-service-worker',
    apply: 'build',
    configResolved: ({ build: { outDir } }) => void (out = outDir),
    closeBundle: async () => {
      const files = readdirSync(out, { recursive: true, withFileTypes: true })
        .filter((entry) => entry.isFile() && entry.name !== 'worker.js')
        .map((entry) => join(entry.parentPath, entry.name))
      const shell = files.map((file) => ({
        url: `/${relative(out, file)}`,
        // Names under assets/ carry a hash of what they hold.
        revision: file.includes('/assets/')
          ? null
          : createHash('sha256').update(readFileSync(file)).digest('hex'),
      }))
      await build({
        configFile: false,
        publicDir: false,
        logLevel: 'error',
        define: { SHELL: JSON.stringify(shell), 'process.env.NODE_ENV': '"production"' },
        build: {
          outDir: out,
          emptyOutDir: false,
          lib: { entry: 'src/worker.ts', formats: ['iife'], name: 'worker', fileName: () => 'worker.js' },
        },
      })
    },
  }
}
