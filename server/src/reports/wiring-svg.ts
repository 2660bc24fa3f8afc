import { asWritten, type DecimalSign } from '@calm/core/quantity/decimal-sign'
import type { Paper } from '@calm/core/paper'
import type { Wiring } from '@calm/core/part/wiring'
import { wiringSheet, type SheetHead } from '@calm/core/wire/sheet'
import { svgInSign } from './svg-in-sign.ts'

/** The wiring as a drawing to hand over, with decimals as the plant writes them. */
export const wiringSvg = (wiring: Wiring, head: SheetHead, paper: Paper, sign: DecimalSign): string =>
  svgInSign(
    wiringSheet(
      wiring,
      {
        ...head,
        tag: asWritten(head.tag),
        service: asWritten(head.service),
        date: asWritten(head.date),
        by: asWritten(head.by),
      },
      paper,
    ),
    sign,
  )
