// Makes the database ready as its owner and tells the starter what the application connects with. The server itself
// never sees the owner's password.
import { backupOptions, CannotStart, prepareDatabase } from './plant/prepare.ts'

const url = process.env['DATABASE_URL'] ?? ''
try {
  const prepared = await prepareDatabase(url, backupOptions(process.env, process.argv[1] ?? '.'))
  process.send?.({ prepared })
} catch (error) {
  process.send?.({
    refused:
      error instanceof CannotStart
        ? error.message
        : `The database could not be made ready: ${error instanceof Error ? error.message : 'unknown'}`,
  })
  process.exitCode = 1
} finally {
  if (process.connected) process.disconnect()
}
