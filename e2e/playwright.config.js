import { defineConfig } from '@playwright/test'
import { readdirSync } from 'node:fs'

export default defineConfig({
  testDir: '.',
  globalSetup: './demo.setup.js',
  timeout: 120_000, // on a loaded machine
  expect: { timeout: 8_000 },
  workers: 2,
  forbidOnly: true,
  retries: 0, // what passes at its second try is broken
  reporter: [['list'], ['./slowest.js']],
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: { executablePath: '/usr/bin/chromium' },
    screenshot: 'only-on-failure',
  },
  // A project a file: workers, and with them servers, are never shared by two.
  projects: readdirSync('.')
    .filter((name) => name.endsWith('.spec.js'))
    .map((name) => ({ name: name.replace('.spec.js', ''), testMatch: name })),
})
