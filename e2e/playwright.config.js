import { defineConfig } from '@playwright/test'
import { readdirSync, statSync } from 'node:fs'
import { launch } from './chromium.js'

export default defineConfig({
  testDir: '.',
  globalSetup: './demo.setup.js',
  timeout: 120_000, // on a loaded machine
  expect: { timeout: 15_000 },
  workers: 3, // on two cores: a story waits a fifth of its time for what saves itself, and for clocks
  forbidOnly: true,
  retries: 0, // what passes at its second try is broken
  reporter: [['list'], ['./slowest.js']],
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: launch,
    contextOptions: { reducedMotion: 'reduce' }, // nothing is waited for that only slides
    screenshot: 'only-on-failure',
  },
  // A project a file: workers, and with them servers, are never shared by two. The longest goes
  // first, so that no worker is left alone with it.
  projects: readdirSync('.')
    .filter((name) => name.endsWith('.spec.js'))
    .toSorted((a, b) => statSync(b).size - statSync(a).size)
    .map((name) => ({ name: name.replace('.spec.js', ''), testMatch: name })),
})
