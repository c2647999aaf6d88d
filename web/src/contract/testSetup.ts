import { server } from './testServer' // stands in before anything imports the client
import { disableAutoUnmount, enableAutoUnmount } from '@vue/test-utils'
import { afterEach, beforeEach, vi } from 'vitest'
import { queries } from './client'

/** Every test begins with a server that answers nothing, with nothing shown or kept, and at the true time. */
disableAutoUnmount()
enableAutoUnmount(afterEach)
beforeEach(() => {
  vi.useRealTimers()
  server.reset()
  queries.clear()
  localStorage.clear()
  sessionStorage.clear()
  document.body.innerHTML = ''
})
