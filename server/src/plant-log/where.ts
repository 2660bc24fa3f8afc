import { join } from 'node:path'

const dataFolder = (env: NodeJS.ProcessEnv) => env['CALM_DATA_DIR'] ?? 'data'

/** Where the plant's key is kept: outside the database. */
export const keyFile = (env: NodeJS.ProcessEnv): string =>
  env['CALM_PLANT_KEY_FILE'] ?? join(dataFolder(env), 'keys', 'plant-key.pem')

/** Where heads go that leave the database, one a line; null where none are kept. */
export function headsFile(env: NodeJS.ProcessEnv): string | null {
  const file = env['CALM_HEADS_FILE'] ?? join(dataFolder(env), 'heads.jsonl')
  return file === 'none' ? null : file
}
