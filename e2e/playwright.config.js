import { defineConfig } from '@playwright/test'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

const port = Number(process.env.PORT ?? 8431)

export default defineConfig({
  testDir: '.',
  timeout: 60_000,
  expect: { timeout: 8_000 },
  workers: 1, // one demo district, one story after the other
  forbidOnly: true,
  retries: 1, // on a loaded machine; what needed a second try is listed as flaky
  reporter: [['list']],
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    launchOptions: { executablePath: '/usr/bin/chromium' },
    trace: 'on-first-retry',
  },
  webServer: {
    command: `../bin/pineledger demo --fresh --data ${join(tmpdir(), `pineledger-e2e-${port}`)} --address 127.0.0.1:${port}`,
    url: `http://127.0.0.1:${port}/api/session`,
    reuseExistingServer: false,
    timeout: 60_000,
  },
})
