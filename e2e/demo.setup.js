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
  const looked = mkdtempSync(join(tmpdir(), 'pineledger-e2e-looked-')) // which panels axe has looked at, whichever worker
  process.env.PINELEDGER_E2E_LOOKED = looked
  return () => [data, looked].forEach((folder) => rmSync(folder, { recursive: true, force: true }))
}
