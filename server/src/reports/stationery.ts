import type { PlantRules } from '@calm/contract/settings'
import type { Paper } from '@calm/core/paper'
import type { DatesAs } from '@calm/core/quantity/date-form'
import type { DecimalSign } from '@calm/core/quantity/decimal-sign'
import type { Executor } from '../db/connection.ts'
import { plantLogo, plantRules } from '../settings/store.ts'

/** What the plant decided of all its papers: their size, whose they are, and how they say numbers, days and times. */
export interface Stationery {
  readonly paper: Paper
  readonly dates: DatesAs
  readonly sign: DecimalSign
  readonly letterhead: PlantRules['letterhead']
  /** A picture as a data address; null: none. */
  readonly logo: string | null
}

export async function stationeryOf(db: Executor): Promise<Stationery> {
  const { paper, dates, decimalSign, letterhead } = await plantRules(db)
  return { paper, dates, sign: decimalSign, letterhead, logo: (await plantLogo(db)).image }
}

/** The size as the PDF library calls it. */
export const pageSizeOf = ({ paper }: Pick<Stationery, 'paper'>): 'A4' | 'LETTER' =>
  paper === 'letter' ? 'LETTER' : 'A4'
