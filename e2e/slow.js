import { createServer, request } from 'node:http'

/** A line to a server on which every answer of its interface comes late: what a story read too early shows at once. */
export async function slowLine(url, milliseconds) {
  const { hostname, port } = new URL(url)
  const line = createServer((asked, answer) => {
    const onward = request({ hostname, port, path: asked.url, method: asked.method, headers: asked.headers }, (answered) => {
      const late = asked.url.startsWith('/api/') ? milliseconds : 0
      setTimeout(() => answered.pipe(answer.writeHead(answered.statusCode, answered.headers)), late)
    })
    onward.on('error', () => answer.destroy())
    answer.on('close', () => onward.destroy())
    asked.pipe(onward)
  })
  await new Promise((listening) => line.listen(0, '127.0.0.1', listening))
  return { url: `http://127.0.0.1:${line.address().port}`, stop: () => (line.closeAllConnections(), line.close()) }
}
