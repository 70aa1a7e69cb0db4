import { defineConfig } from '@playwright/test'
import { options } from './chromium.mjs'

export default defineConfig({
  testDir: '.',
  workers: 1,
  timeout: 180_000,
  expect: { timeout: 30_000 },
  forbidOnly: true,
  // CI's machine stalls now and then; a test that needs its second try is listed as flaky.
  retries: process.env.CI ? 1 : 0,
  reporter: [['list'], ['./closing.ts']],
  use: {
    viewport: { width: 1280, height: 800 },
    video: 'off',
    launchOptions: options,
  },
})
