import type { RequestHandler } from 'express'
import helmet from 'helmet'
import { HttpProblem } from './problems.ts'

/** Headers for a page that runs only its own scripts. The theme is a style element, hence inline styles. */
export const securityHeaders: RequestHandler = helmet({
  contentSecurityPolicy: {
    directives: {
      'default-src': ["'self'"],
      'script-src': ["'self'"],
      'style-src': ["'self'", "'unsafe-inline'"],
      'img-src': ["'self'", 'data:', 'blob:'],
      'font-src': ["'self'"],
      'worker-src': ["'self'", 'blob:'],
      'connect-src': ["'self'"],
      'frame-ancestors': ["'none'"],
      'upgrade-insecure-requests': null,
    },
  },
  // Served on loopback over plain HTTP; a proxy in front adds its own.
  strictTransportSecurity: false,
})

const LOOPBACK = new Set(['127.0.0.1', 'localhost', '[::1]'])
const LEFT_OUT_PORT = /:\d+$/

/**
 * The Host header names this server: its configured address, or loopback where none is. A page of another site whose
 * name was pointed here would else be taken for ours.
 * @param address - as people type it, `https://calm.plant.example`; null for this machine only
 */
export function knownHost(address: string | null): RequestHandler {
  const own = address === null ? null : new URL(address).host
  return (req, _res, next) => {
    const host = (req.headers.host ?? '').toLowerCase()
    if (host !== own && !LOOPBACK.has(host.replace(LEFT_OUT_PORT, '')))
      throw new HttpProblem('other-host', 'This server does not answer under that name.', [
        { path: 'host', says: `Ask for ${own ?? 'localhost'}, or configure CALM_ADDRESS.` },
      ])
    next()
  }
}

/** What the API answers is for who asked, and kept by nobody on the way. */
export const keptByNobody: RequestHandler = (_req, res, next) => {
  res.setHeader('Cache-Control', 'no-store')
  next()
}

const SAFE = new Set(['GET', 'HEAD', 'OPTIONS'])

/** Every write must come from our own pages: same origin by the browser's word, or by the Origin header. */
export const sameOriginWrites: RequestHandler = (req, _res, next) => {
  if (SAFE.has(req.method)) {
    next()
    return
  }
  const site = req.get('sec-fetch-site')
  const origin = req.get('origin')
  const own = origin === undefined || originHost(origin) === req.get('host')
  if ((site !== undefined && site !== 'same-origin' && site !== 'none') || !own)
    throw new HttpProblem('other-site', 'This came from another site and was not done.')
  next()
}

function originHost(origin: string): string | null {
  try {
    return new URL(origin).host
  } catch {
    return null
  }
}

/** The person a page believes to be signed in; another page of the same browser may have changed that. */
export const PERSON_HEADER = 'x-calm-person'

/** A write goes under the name that its page shows, or not at all. */
export const samePersonWrites =
  (personOf: (req: Parameters<RequestHandler>[0]) => string | undefined): RequestHandler =>
  (req, _res, next) => {
    const told = req.get(PERSON_HEADER)
    const person = personOf(req)
    if (!SAFE.has(req.method) && told !== undefined && person !== undefined && told !== person)
      throw new HttpProblem(
        'another-person',
        'Another person has signed in here meanwhile. Nothing was recorded under that name; what you typed is kept.',
        [{ path: 'person', says: 'Sign in again as who did it.' }],
      )
    next()
  }
