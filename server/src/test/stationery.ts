import type { Paper } from '@calm/core/paper'
import type { Stationery } from '../reports/stationery.ts'

/** Papers of a plant that decided nothing but their size. */
export const stationery = (paper: Paper): Stationery => ({
  paper,
  dates: { form: 'iso', timeZone: 'UTC' },
  sign: 'point',
  letterhead: { name: '', address: '', country: '' },
  logo: null,
})
