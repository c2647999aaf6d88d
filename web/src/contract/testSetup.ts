import { server } from './testServer' // stands in before anything imports the client
import { disableAutoUnmount, enableAutoUnmount } from '@vue/test-utils'
import { afterEach, beforeEach } from 'vitest'
import { queries } from './client'

/** Every test begins with a server that answers nothing, and with nothing shown or kept. */
disableAutoUnmount()
enableAutoUnmount(afterEach)
beforeEach(() => {
  server.reset()
  queries.clear()
  localStorage.clear()
  sessionStorage.clear()
  document.body.innerHTML = ''
})
