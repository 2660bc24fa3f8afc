/** What may part the fields of a line, in the order in which equal ones are taken. */
export const DELIMITERS = ['\t', ';', '|', ',', ' '] as const
export type Delimiter = (typeof DELIMITERS)[number]

/** Of a line without quotes, cut once: millions come by here. */
function bareFields(line: string, delimiter: Delimiter): string[] {
  const fields: string[] = []
  for (let from = 0; ;) {
    const to = line.indexOf(delimiter, from)
    fields.push((to < 0 ? line.slice(from) : line.slice(from, to)).trim())
    if (to < 0) return fields
    from = to + 1
  }
}

/** A line with what stands in it parted; a sign inside double quotes parts nothing. Blanks part by runs. */
export function fieldsOf(line: string, delimiter: Delimiter): string[] {
  if (delimiter === ' ') return line.trim().split(/ +/)
  if (!line.includes('"')) return bareFields(line, delimiter)
  const fields: string[] = []
  let [field, isQuoted] = ['', false]
  for (const sign of line) {
    if (sign === '"') isQuoted = !isQuoted
    else if (sign === delimiter && !isQuoted) {
      fields.push(field.trim())
      field = ''
    } else field += sign
  }
  return [...fields, field.trim()]
}

/** The commonest of numbers; of equally common ones the larger. */
function commonest(counts: readonly number[]): number {
  const times = new Map<number, number>()
  for (const c of counts) times.set(c, (times.get(c) ?? 0) + 1)
  return [...times].reduce((a, b) => (b[1] > a[1] || (b[1] === a[1] && b[0] > a[0]) ? b : a), [0, 0])[0]
}

/** How many fields the lines of a file have, and what parts them; null where nothing does. */
export function delimiterOf(
  lines: readonly string[],
): { readonly delimiter: Delimiter; readonly count: number } | null {
  const tail = lines.slice(Math.floor(lines.length * 0.2))
  const scored = DELIMITERS.map((delimiter) => {
    const counts = tail.map((l) => fieldsOf(l, delimiter).length)
    const count = commonest(counts)
    const score = count < 2 ? 0 : counts.filter((c) => c === count).length / tail.length
    return { delimiter, count, score }
  })
  const signs = scored.filter((s) => s.delimiter !== ' ')
  // A date and a clock are two fields by a blank in any file: it parts only where no other sign does.
  const open = signs.some((s) => s.score >= 0.5) ? signs : scored
  const best = open.reduce((a, b) => (b.score > a.score ? b : a))
  return best.score > 0 ? best : null
}
