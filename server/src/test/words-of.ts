import type { Equipment } from '@calm/contract/equipment'

/** What stands on an instrument and its certificate: what a change of it sends. */
export const wordsOf = (e: Equipment) => ({
  name: e.name,
  serial: e.serial,
  range: e.range,
  uncertainty: e.uncertainty,
  drift: e.drift,
  resolution: e.resolution,
  certificate: e.certificate,
  certifiedOn: e.certifiedOn,
  dueOn: e.dueOn,
})
