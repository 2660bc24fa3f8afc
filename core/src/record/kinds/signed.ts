import { saySigned, Signing } from '../../signing/signing.ts'
import { defineKind } from './kind.ts'

export const signed = defineKind({
  type: 'signed',
  of: 'verification',
  payload: Signing,
  title: 'Signed',
  says: saySigned,
})
