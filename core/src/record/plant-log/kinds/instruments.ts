import { z } from 'zod'
import { NotePicture } from '../../kinds/note-kept.ts'
import { plantKind } from './plant-kind.ts'

const text = z.string().max(200)

export const instrumentAdded = plantKind({
  type: 'instrument.added',
  group: 'instruments',
  payload: z.strictObject({ name: text, serial: text, foreign: z.boolean() }),
  title: 'Instrument added',
  says: (p) => `${p.name}, serial ${p.serial}${p.foreign ? ', of a package: no choice here' : ''}.`,
})
export const certificateRenewed = plantKind({
  type: 'certificate.renewed',
  group: 'instruments',
  payload: z.strictObject({ name: text, serial: text, certificate: text, certifiedOn: text, dueOn: text }),
  title: 'Certificate renewed',
  says: (p) =>
    `${p.name}, serial ${p.serial}: certificate ${p.certificate} of ${p.certifiedOn}, good until ${p.dueOn}.`,
})
export const instrumentChanged = plantKind({
  type: 'instrument.changed',
  group: 'instruments',
  payload: z.strictObject({ name: text, serial: text }),
  title: 'Instrument corrected',
  says: (p) => `${p.name}, serial ${p.serial}.`,
})
export const instrumentRetired = plantKind({
  type: 'instrument.retired',
  group: 'instruments',
  payload: z.strictObject({ name: text, serial: text, retired: z.boolean() }),
  title: 'Instrument retired or brought back',
  says: (p) => `${p.name}, serial ${p.serial}: ${p.retired ? 'used for nothing any more' : 'in use again'}.`,
})
export const instrumentPictured = plantKind({
  type: 'instrument.pictured',
  group: 'instruments',
  payload: z.strictObject({
    name: text,
    serial: text,
    /** What is to be seen. */
    shows: text,
    pictures: z.array(NotePicture).min(1).max(4),
  }),
  title: 'Instrument photographed',
  says: (p) =>
    `${p.name}, serial ${p.serial}${p.shows === '' ? '' : `: ${p.shows}`} (${p.pictures.length} ${p.pictures.length === 1 ? 'picture' : 'pictures'}).`,
})
export const sensorSaved = plantKind({
  type: 'sensor.saved',
  group: 'instruments',
  payload: z.strictObject({ name: text, revision: z.int().min(1) }),
  title: 'Sensor described',
  says: (p) => `${p.name}, description ${p.revision}.`,
})
