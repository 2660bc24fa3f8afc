const stem = (serial: string) => serial.replace(/[-_ ]?(A|B|UP|DN)$/, '')

/**
 * Whether two serials are those of one matched pair: one number, one A and one B. Empty ones say nothing.
 * @returns what is wrong, or null
 */
export function pairProblem(serialA: string, serialB: string): { code: string; says: string } | null {
  const [a, b] = [serialA.trim().toUpperCase(), serialB.trim().toUpperCase()]
  if (a === '' || b === '') return null
  if (stem(a) !== stem(b))
    return {
      code: 'PAIR_MIXED',
      says: `${a} and ${b} are not a pair: matched sensors carry the same number and A or B.`,
    }
  if (a === b)
    return { code: 'PAIR_SAME', says: `Both sensors carry ${a}: one of the pair is A, the other B.` }
  const isUpstream = (x: string) => /(A|UP)$/.test(x)
  const isDownstream = (x: string) => /(B|DN)$/.test(x)
  return isDownstream(a) && isUpstream(b)
    ? {
        code: 'PAIR_EXCHANGED',
        says: `${b} belongs upstream and ${a} downstream: as they are entered the flow reads negative.`,
      }
    : null
}
