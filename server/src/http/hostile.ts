import type { RequestHandler } from 'express'
import { DEEPEST, tooDeep } from './depth.ts'
import { HttpProblem, unreadable } from './problems.ts'

/** A key that would change every object instead of one. */
const PROTOTYPE = '__proto__'

/** Addresses that no page of ours asks for: refused before anything looks at them. */
export const readableAddress: RequestHandler = (req, _res, next) => {
  const [path = '', query = ''] = req.url.split('?', 2)
  let decoded: string
  try {
    decoded = decodeURIComponent(path)
  } catch {
    throw unreadable('address', 'The address is not readable.')
  }
  if (decoded.includes('\0') || /%00/.test(query))
    throw unreadable('address', 'The address holds a character that no address of ours has.')
  if (decoded.split(/[/\\]/).some((part) => part === '..' || part === '.'))
    throw unreadable('address', 'The address leads out of its folder.')
  const keys = [...new URLSearchParams(query).keys()]
  if (decoded.split('/').includes(PROTOTYPE) || keys.some((k) => k.includes(PROTOTYPE)))
    throw unreadable('address', `“${PROTOTYPE}” is not a name of anything here.`)
  next()
}

/** For the body parser: nesting is told from the text, before anything walks it. */
export function shallowEnough(_req: unknown, _res: unknown, bytes: Buffer): void {
  if (tooDeep(bytes.toString('utf8')))
    throw new HttpProblem('unreadable', 'The request cannot be read.', [
      { path: '', says: `It nests deeper than ${DEEPEST} levels; nothing of ours does.` },
    ])
}

function prototypeIn(value: unknown, path: string): string | null {
  if (typeof value !== 'object' || value === null) return null
  for (const [k, v] of Object.entries(value)) {
    const here = path === '' ? k : `${path}.${k}`
    if (k === PROTOTYPE) return here
    const found = prototypeIn(v, here)
    if (found !== null) return found
  }
  return null
}

/** Bodies that would change every object instead of one. */
export const harmlessBody: RequestHandler = (req, _res, next) => {
  const path = Buffer.isBuffer(req.body) ? null : prototypeIn(req.body, '')
  if (path !== null) throw unreadable(path, `“${PROTOTYPE}” is not a name of anything here.`)
  next()
}
