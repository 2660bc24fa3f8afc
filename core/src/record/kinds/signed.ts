import { saySigned, Signing } from '../../signing/signature.ts'
import { defineKind } from './kind.ts'

export const signed = defineKind({
  type: 'signed',
  of: 'verification',
  payload: Signing,
  title: 'Signed',
  says: saySigned,
})
