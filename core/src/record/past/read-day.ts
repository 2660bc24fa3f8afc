const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec']

function day(y: number, m: number, d: number): string | null {
  const at = new Date(Date.UTC(y, m - 1, d))
  const isReal = at.getUTCFullYear() === y && at.getUTCMonth() === m - 1 && at.getUTCDate() === d
  return isReal && y >= 1950 && y <= 2100 ? at.toISOString().slice(0, 10) : null
}

/**
 * A day as certificates have it: 2019-03-12, 12.03.2019, 12 Mar 2019, Mar 12, 2019, and with strokes where only one
 * order of day and month is possible.
 * @returns the ISO day, or a sentence that says what is wrong
 */
export function readDay(text: string): { readonly day: string } | { readonly says: string } {
  const t = text.trim()
  const no = { says: `“${t.slice(0, 30)}” is not a date of the calendar. Write it as 2019-03-12.` }
  const as = (y: number, m: number, d: number) => {
    const told = day(y, m, d)
    return told === null ? no : { day: told }
  }
  const iso = /^(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})(?:[T ].*)?$/.exec(t)
  if (iso) return as(Number(iso[1]), Number(iso[2]), Number(iso[3]))
  const dots = /^(\d{1,2})\.\s?(\d{1,2})\.\s?(\d{4})$/.exec(t)
  if (dots) return as(Number(dots[3]), Number(dots[2]), Number(dots[1]))
  const strokes = /^(\d{1,2})[/-](\d{1,2})[/-](\d{4})$/.exec(t)
  if (strokes) {
    const [a, b, y] = [Number(strokes[1]), Number(strokes[2]), Number(strokes[3])]
    if (a > 12) return as(y, b, a)
    if (b > 12) return as(y, a, b)
    return a === b
      ? as(y, a, b)
      : {
          says: `“${t}” can be two days: day or month may stand first. Write it as ${y}-${String(b).padStart(2, '0')}-${String(a).padStart(2, '0')}.`,
        }
  }
  const month = (name: string) => MONTHS.indexOf(name.slice(0, 3).toLowerCase()) + 1
  const words = /^(\d{1,2})[ .-]+([A-Za-z]{3,9})[ .,-]+(\d{4})$/.exec(t)
  if (words && month(words[2] ?? '') > 0) return as(Number(words[3]), month(words[2] ?? ''), Number(words[1]))
  const first = /^([A-Za-z]{3,9})\.? (\d{1,2}),? (\d{4})$/.exec(t)
  if (first && month(first[1] ?? '') > 0) return as(Number(first[3]), month(first[1] ?? ''), Number(first[2]))
  return no
}
