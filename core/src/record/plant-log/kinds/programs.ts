import { z } from 'zod'
import { plantKind } from './plant-kind.ts'

const name = z.string().max(120)
const url = z.string().max(500)

export const tokenMade = plantKind({
  type: 'token.made',
  group: 'settings',
  payload: z.strictObject({ name, scope: z.string().max(20), until: z.iso.date() }),
  title: 'Token made',
  says: (p) => `${p.name} may look (${p.scope}) until ${p.until}.`,
})
export const tokenEnded = plantKind({
  type: 'token.ended',
  group: 'settings',
  payload: z.strictObject({ name }),
  title: 'Token ended',
  says: (p) => `${p.name} opens nothing any more.`,
})
export const webhookBegun = plantKind({
  type: 'webhook.begun',
  group: 'settings',
  payload: z.strictObject({ url, about: z.array(z.string().max(20)) }),
  title: 'Webhook begun',
  says: (p) => `${p.url} is told of ${p.about.join(' and ')}.`,
})
export const webhookEnded = plantKind({
  type: 'webhook.ended',
  group: 'settings',
  payload: z.strictObject({ url }),
  title: 'Webhook ended',
  says: (p) => `${p.url} is told nothing any more.`,
})
