import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { binary } from './server.js'

/** Makes the demo once; each file of stories works on a copy. */
export default function setup() {
  const data = mkdtempSync(join(tmpdir(), 'pineledger-e2e-demo-'))
  execFileSync(binary, ['demo', '--data', data, '--only-make'], { stdio: 'ignore' })
  process.env.PINELEDGER_E2E_DEMO = data
  return () => rmSync(data, { recursive: true, force: true })
}
