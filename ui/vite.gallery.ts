import tailwind from '@tailwindcss/vite'
import vue from '@vitejs/plugin-vue'
import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vite'

/** The page of all parts, which tests look at; the program does not carry it. */
export default defineConfig({
  root: fileURLToPath(new URL('gallery', import.meta.url)),
  base: '/parts/',
  plugins: [vue(), tailwind()],
  build: { outDir: fileURLToPath(new URL('../bin/parts', import.meta.url)), assetsInlineLimit: 0, emptyOutDir: true },
})
