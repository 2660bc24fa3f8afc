// Where packages and build are there already, as in a container: makes the database ready, then serves until it is
// told to stop. Whoever started it starts it again.
import { say, giveUp } from './lib/say.mjs'
import { prepare, serveOn } from './lib/serve.mjs'

const url = process.env['DATABASE_URL']
if (!url) giveUp('DATABASE_URL is not set.')
const port = Number(process.env['PORT'] ?? 4180)
try {
  const { url: application, ownRole } = await prepare(url ?? '')
  if (!ownRole) say('The database’s role may not make another: Calm Loop works as the owner.')
  const server = await serveOn({ url: application, port })
  say(`Calm Loop is at port ${port}`)
  for (const signal of /** @type {const} */ (['SIGINT', 'SIGTERM']))
    process.on(signal, () => void server.stop())
  process.exitCode = await server.gone
} catch (error) {
  giveUp(error instanceof Error ? error.message : String(error))
}
