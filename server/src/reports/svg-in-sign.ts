import { inSign, type DecimalSign } from '@calm/core/quantity/decimal-sign'

/** A drawing with the decimals in its texts as the plant writes them; its coordinates stay. */
export const svgInSign = (svg: string, sign: DecimalSign): string =>
  inSign(
    svg.replace(/>([^<>]+)<\/text>/g, (_, text: string) => `>${inSign(text, sign)}</text>`),
    'point',
  )
