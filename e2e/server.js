import { spawn } from 'node:child_process'

/** The binary with its web part; a test command hands on the one that it has built. */
export const binary = process.env.PINELEDGER_BIN ?? '../bin/pineledger'

/** Starts the demo over a data folder at a free port. Gives its address and how to end it. */
export const startServer = (data, { fresh = false } = {}) =>
  start(['demo', '--data', data, '--address', '127.0.0.1:0', ...(fresh ? ['--fresh'] : [])])

/** Starts a stand-in for a locked browser before a server. */
export const startLockedBrowser = (data, server) =>
  start(['standin', 'locked-browser', '--data', data, '--server', server, '--address', '127.0.0.1:0'])

async function start(args) {
  const server = spawn(binary, args, { stdio: ['ignore', 'pipe', 'inherit'] })
  const ended = new Promise((done) => server.on('exit', done))
  const url = await new Promise((found, failed) => {
    ended.then((code) => failed(new Error(`the server ended with ${code}`)))
    server.stdout.on('data', (text) => {
      const address = String(text).match(/http:\/\/[0-9.:]+/)
      if (address) found(address[0])
    })
  })
  return {
    url,
    stop: () => {
      server.kill('SIGTERM')
      return ended
    },
  }
}
