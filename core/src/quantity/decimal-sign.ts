/** How a plant's papers write decimals. */
export const DECIMAL_SIGNS = ['point', 'comma'] as const
export type DecimalSign = (typeof DECIMAL_SIGNS)[number]
/** Twelve and a half in each of them. */
export const DECIMAL_SIGN_SAYS: Readonly<Record<DecimalSign, string>> = {
  point: '12.5',
  comma: '12,5',
}

// Of the private range: no keyboard types them and no font draws them.
const FROM = '\uE000'
const TO = '\uE001'
const marks = (text: string): string => text.replaceAll(FROM, '').replaceAll(TO, '')

/**
 * What somebody typed, to be set into a sentence of the program: `inSign` leaves the numbers in it alone, since a note
 * is evidence and stands as it was written.
 */
export const asWritten = (text: string): string => `${FROM}${marks(text)}${TO}`

/**
 * A number of the program, with its point: neither a part of a tag, a version, a clause, a day or an address, nor of a
 * larger such thing.
 */
const DECIMAL = /(?<![\p{L}\d_]|[\p{L}\d]-|\p{L}\/|[.:])(\d+)\.(\d+)(?!\d|\.\d)/gu

/**
 * A text of the program with its decimals as the plant writes them, and without the marks of what was typed.
 * @param text - sentences with a decimal point; what people typed is in them by `asWritten`
 */
export function inSign(text: string, sign: DecimalSign): string {
  return text
    .split(FROM)
    .map((piece, i) => {
      // Behind each mark stands what was typed, up to the next one; a text that was cut short ends inside it.
      const [typed, said] = i === 0 ? ['', piece] : cut(piece)
      return typed + (sign === 'comma' ? said.replace(DECIMAL, '$1,$2') : said)
    })
    .join('')
}

function cut(piece: string): readonly [typed: string, said: string] {
  const end = piece.indexOf(TO)
  return end < 0 ? [piece, ''] : [piece.slice(0, end), piece.slice(end + TO.length)]
}
