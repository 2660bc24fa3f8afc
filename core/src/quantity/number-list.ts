import { parseNumber } from './parse-number.ts'

/** Numbers typed in a row: spaces or semicolons between them, decimal comma or point. A text says what is wrong. */
export function parseNumberList(list: string): number[] | string {
  const out: number[] = []
  for (const word of list.split(/[;\s]+/).filter((w) => w !== '')) {
    const n = parseNumber(word)
    if (n.kind !== 'number' || n.rest !== '')
      return `“${word}” is not a number. Type numbers with spaces between them.`
    out.push(n.value)
  }
  return out
}

/** What is wrong with a list of numbers above zero, or null. */
export function positiveListProblem(list: string): string | null {
  const numbers = parseNumberList(list)
  if (typeof numbers === 'string') return numbers
  const low = numbers.find((n) => n <= 0)
  return low === undefined ? null : `${low} is not above 0.`
}
export const numberListProblem = (list: string): string | null => {
  const numbers = parseNumberList(list)
  return typeof numbers === 'string' ? numbers : null
}
/** The numbers of a list that was checked before; empty when it is wrong. */
export const numbersOf = (list: string): number[] => {
  const numbers = parseNumberList(list)
  return typeof numbers === 'string' ? [] : numbers
}
