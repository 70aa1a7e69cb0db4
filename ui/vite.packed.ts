import { readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { brotliCompressSync, constants, gzipSync } from 'node:zlib'
import type { Plugin } from 'vite'

/** Writes each file once more with Brotli and gzip at their best, so that the server packs nothing while somebody waits. */
export function packed(): Plugin {
  let folder = ''
  return {
    name: 'packed',
    apply: 'build',
    configResolved(config) {
      folder = config.build.outDir
    },
    closeBundle() {
      for (const name of readdirSync(folder)) {
        if (!/\.(js|css|svg|mjs)$/.test(name)) continue
        const data = readFileSync(join(folder, name))
        if (data.length < 500) continue
        const size = { [constants.BROTLI_PARAM_SIZE_HINT]: data.length }
        writeFileSync(join(folder, `${name}.br`), brotliCompressSync(data, { params: size }))
        writeFileSync(join(folder, `${name}.gz`), gzipSync(data, { level: 9 }))
      }
    },
  }
}
