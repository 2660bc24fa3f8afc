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

const SAFE = new Set(['GET', 'HEAD', 'OPTIONS'])

/** Every write must come from our own pages: same origin by the browser's word, or by the Origin header. */
export const sameOriginWrites: RequestHandler = (req, _res, next) => {
  if (SAFE.has(req.method)) return next()
  const site = req.get('sec-fetch-site')
  const origin = req.get('origin')
  const own = origin === undefined || originHost(origin) === req.get('host')
  if ((site !== undefined && site !== 'same-origin' && site !== 'none') || !own)
    throw new HttpProblem(403, 'other-site', 'This came from another site and was not done.')
  next()
}

function originHost(origin: string): string | null {
  try {
    return new URL(origin).host
  } catch {
    return null
  }
}
