import tailwind from '@tailwindcss/vite'
import vue from '@vitejs/plugin-vue'
import { fileURLToPath } from 'node:url'
import type { UserConfig } from 'vite'

/** One of the two applications: its own root, its own folder in dist, and no inlined assets. */
export function application(name: 'admin' | 'public'): UserConfig {
  return {
    root: fileURLToPath(new URL(name, import.meta.url)),
    base: `/assets/${name}/`,
    plugins: [vue(), tailwind()],
    build: {
      outDir: fileURLToPath(new URL(`dist/${name}`, import.meta.url)),
      assetsDir: '.',
      assetsInlineLimit: 0,
      emptyOutDir: true,
      modulePreload: { polyfill: false },
      chunkSizeWarningLimit: 900,
    },
  }
}
