import { defineConfig } from '@playwright/test'

export default defineConfig({
  testDir: '.',
  workers: 1,
  timeout: 60_000,
  forbidOnly: true,
  // CI's machine stalls now and then; a test that needs its second try is listed as flaky.
  retries: process.env.CI ? 1 : 0,
  reporter: [['list'], ['./closing.ts']],
  use: {
    viewport: { width: 1280, height: 800 },
    video: 'off',
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
})
