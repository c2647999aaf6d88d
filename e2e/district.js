import { test as base } from '@playwright/test'
import { cp, mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { startServer } from './server.js'
import { slowLine } from './slow.js'

const late = Number(process.env.PINELEDGER_E2E_LATE ?? 0)

/** Every file of stories has a server and a copy of the demo of its own, so that none can lean on another. */
export const test = base.extend({
  district: [
    async ({}, use) => {
      const data = await mkdtemp(join(tmpdir(), 'pineledger-e2e-'))
      await cp(process.env.PINELEDGER_E2E_DEMO, data, { recursive: true })
      const server = await startServer(data)
      const line = late ? await slowLine(server.url, late) : undefined
      await use({ data, ...(line ?? server) })
      line?.stop()
      await server.stop()
      await rm(data, { recursive: true, force: true })
    },
    { scope: 'worker', timeout: 30_000 },
  ],
  baseURL: ({ district }, use) => use(district.url),
})

export { expect } from '@playwright/test'
