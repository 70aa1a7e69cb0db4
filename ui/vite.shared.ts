import tailwind from '@tailwindcss/vite'
import vue from '@vitejs/plugin-vue'
import { fileURLToPath } from 'node:url'
import type { UserConfig } from 'vite'
import { packed } from './vite.packed.ts'

/** One of the two applications: its own root, its own folder in dist, and no inlined assets. */
export function application(name: 'admin' | 'public'): UserConfig {
  return {
    root: fileURLToPath(new URL(name, import.meta.url)),
    base: `/assets/${name}/`,
    plugins: [vue(), tailwind(), packed()],
    // The respondents' pages use no options API; leaving it out makes them smaller.
    define: name === 'public' ? { __VUE_OPTIONS_API__: 'false', __VUE_PROD_DEVTOOLS__: 'false' } : {},
    build: {
      outDir: fileURLToPath(new URL(`dist/${name}`, import.meta.url)),
      assetsDir: '.',
      assetsInlineLimit: 0,
      emptyOutDir: true,
      modulePreload: { polyfill: false },
      chunkSizeWarningLimit: 900,
      // One file for the framework: a phone far away pays for each request.
      rolldownOptions:
        name === 'public'
          ? {
              output: {
                codeSplitting: {
                  groups: [
                    { name: 'vue', test: /node_modules\/(@vue|vue|@vueuse)\// },
                    {
                      name: 'form',
                      test: new RegExp(
                        'preload-helper|shared/(numbers|texts/(en|index)|' +
                          'sheet/(sheet|raw|FormSheet|FieldControl|controls/(Text|Choice|Parts)))',
                      ),
                    },
                  ],
                },
              },
            }
          : {},
    },
  }
}
