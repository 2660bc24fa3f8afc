import type { Endpoint } from '@calm/contract/api/endpoint'
import express, { type Request, type RequestHandler } from 'express'
import { harmlessBody, shallowEnough } from './hostile.ts'
import { bodyLimits } from './in-flight.ts'

/** A sign-in is small; everything larger needs one. */
const STRANGER_LIMIT = '16kb'
const BODY_LIMIT = '1mb'

/**
 * What reads the body of a request to an endpoint: as much as that endpoint takes, in its form, and so many at once.
 * @param personId - who is signed in
 */
export function bodyReaders(
  personId: (req: Request) => string | undefined,
): (e: Endpoint) => readonly RequestHandler[] {
  const few = bodyLimits(personId)
  return (e) => {
    if (e.body === undefined) return []
    const limit = e.allow === 'anyone' ? STRANGER_LIMIT : (e.largest ?? BODY_LIMIT)
    return typeof e.body === 'string'
      ? [few, express.raw({ type: e.body, limit })]
      : [few, express.json({ limit, strict: false, verify: shallowEnough }), harmlessBody]
  }
}
