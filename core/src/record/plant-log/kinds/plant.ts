import { z } from 'zod'
import { plantKind } from './plant-kind.ts'

const text = z.string().max(300)
const hash = z.string().regex(/^[0-9a-f]{64}$/)

export const plantBegun = plantKind({
  type: 'plant.begun',
  group: 'backups and the record',
  payload: z.strictObject({ plant: z.uuid() }),
  title: 'The plant’s record began',
  says: (p) => `Plant ${p.plant}. What stood here before is written down as it was found.`,
})
export const rowFound = plantKind({
  type: 'row.found',
  group: 'backups and the record',
  payload: z.strictObject({ what: text }),
  title: 'Found when the record began',
  says: (p) => `${p.what} was here before this record began.`,
})
export const plantKeyBegun = plantKind({
  type: 'plant-key.begun',
  group: 'keys and signatures',
  payload: z.strictObject({ fingerprint: hash, publicKey: hash }),
  title: 'The plant’s key',
  says: (p) => `Heads of the record are signed by key ${p.fingerprint.slice(0, 16)} from now on.`,
})
export const demoLoaded = plantKind({
  type: 'demo.loaded',
  group: 'imports and exports',
  payload: z.strictObject({ loops: z.array(z.uuid()) }),
  title: 'Demo plant loaded',
  says: (p) => `${p.loops.length} loops of an invented works; nothing of it is real.`,
})
export const plantRestored = plantKind({
  type: 'plant.restored',
  group: 'backups and the record',
  payload: z.strictObject({ madeAt: text, size: z.int().min(0) }),
  title: 'Plant restored from a backup',
  says: (p) => `The backup was made ${p.madeAt}; the record had ${p.size} entries then.`,
})
export const backupMade = plantKind({
  type: 'backup.made',
  group: 'backups and the record',
  payload: z.strictObject({ file: text, sealed: z.boolean() }),
  title: 'Backup made',
  says: (p) => `${p.file}, ${p.sealed ? 'sealed' : 'not sealed'}.`,
})
export const rulesChanged = plantKind({
  type: 'rules.changed',
  group: 'settings',
  payload: z.strictObject({ what: z.array(text).max(20) }),
  title: 'Rules of the plant changed',
  says: (p) => `Decided anew: ${p.what.join(', ')}.`,
})
export const ownPartsChanged = plantKind({
  type: 'own-parts.changed',
  group: 'settings',
  payload: z.strictObject({ parts: z.array(text).max(1000) }),
  title: 'The plant’s own parts changed',
  says: (p) => (p.parts.length === 0 ? 'No part of its own is left.' : `They are: ${p.parts.join(', ')}.`),
})
export const listImported = plantKind({
  type: 'list.imported',
  group: 'imports and exports',
  payload: z.strictObject({
    created: z.int().min(0),
    updated: z.int().min(0),
    same: z.int().min(0),
    held: z.int().min(0),
  }),
  title: 'Loop list imported',
  says: (p) => `${p.created} added, ${p.updated} changed, ${p.same} as they were, ${p.held} held back.`,
})
export const listUndone = plantKind({
  type: 'list.undone',
  group: 'imports and exports',
  payload: z.strictObject({ loops: z.int().min(0) }),
  title: 'Import undone',
  says: (p) => `${p.loops} ${p.loops === 1 ? 'loop stands' : 'loops stand'} as before it.`,
})
export const fileFetched = plantKind({
  type: 'file.fetched',
  group: 'imports and exports',
  payload: z.strictObject({ file: text }),
  title: 'File fetched',
  says: (p) => `${p.file}.`,
})
export const packageMade = plantKind({
  type: 'package.made',
  group: 'imports and exports',
  payload: z.strictObject({ tag: text, file: hash, events: z.int().min(0), head: hash }),
  title: 'Package made',
  says: (p) => `${p.tag} with ${p.events} events, file ${p.file.slice(0, 16)}.`,
})
export const packageTakenIn = plantKind({
  type: 'package.taken-in',
  group: 'imports and exports',
  payload: z.strictObject({ tag: text, file: hash, events: z.int().min(0) }),
  title: 'Package taken in',
  says: (p) => `${p.tag} with ${p.events} events, file ${p.file.slice(0, 16)}.`,
})
export const deviceAsked = plantKind({
  type: 'device.asked',
  group: 'devices',
  payload: z.strictObject({ tag: text, command: text, answer: text, ok: z.boolean() }),
  title: 'Device command',
  says: (p) => `${p.tag}: ${p.command}. ${p.ok ? 'Done' : 'Refused'}: ${p.answer}`,
})
export const reviewed = plantKind({
  type: 'log.reviewed',
  group: 'backups and the record',
  payload: z.strictObject({ upTo: z.string().max(30), entries: z.int().min(0) }),
  title: 'Log reviewed',
  says: (p) => `${p.entries} entries up to ${p.upTo} were looked through.`,
})
