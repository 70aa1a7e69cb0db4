import { defineConfig } from 'vitest/config'

/** Tests that draw lots take as long as the machine needs: how quick they are is not theirs to judge. */
export default defineConfig({ test: { testTimeout: 120_000 } })
