import { z } from 'zod'
import { defineKind } from './kind.ts'

const Payload = z.strictObject({})

/** Nothing was adjusted: the as-found readings are the as-left ones, by reference. */
export const leftAsFound = defineKind({
  type: 'left.asFound',
  of: 'verification',
  payload: Payload,
  title: 'Left as found',
  says: () => 'Nothing was adjusted.',
})
