/**
 * What a constant of a characterization is in physics. What a tag or a menu calls it, the technician types:
 * no maker's names for these constants are built in.
 */
export const ROLES = {
  flowFactor: { title: 'Flow factor', unit: '(g/s)/µs' },
  flowTemperature: { title: 'Flow temperature coefficient', unit: '% per 100 °C' },
  lightPeriod: { title: 'Period of the light point', unit: 'µs' },
  lightDensity: { title: 'Density of the light point', unit: '' },
  heavyPeriod: { title: 'Period of the heavy point', unit: 'µs' },
  heavyDensity: { title: 'Density of the heavy point', unit: '' },
  densityTemperature: { title: 'Density temperature coefficient', unit: '% per 100 °C' },
  densityFlow: { title: 'Density flow term', unit: '' },
  flowPressure: { title: 'Flow pressure effect', unit: '' },
  densityPressure: { title: 'Density pressure effect', unit: '' },
  driveFrequency: { title: 'Drive frequency', unit: 'Hz' },
  other: { title: 'Another constant', unit: '' },
} as const
export type Role = keyof typeof ROLES

/** The roles that the equations for mass flow and density need: a set-up starts with these. */
export const NEEDED = [
  'flowFactor',
  'flowTemperature',
  'lightPeriod',
  'lightDensity',
  'heavyPeriod',
  'heavyDensity',
  'densityTemperature',
] as const satisfies readonly Role[]
/** Further ones that a tag may carry. */
export const FURTHER = [
  'densityFlow',
  'flowPressure',
  'densityPressure',
  'driveFrequency',
  'other',
] as const satisfies readonly Role[]

/** Where a constant stands, the one that counts first. */
export const DOCUMENTS = {
  certificate: { title: 'certificate' },
  tag: { title: 'tag' },
  device: { title: 'device' },
} as const
export type DocumentKind = keyof typeof DOCUMENTS
