import MiniSearch from 'minisearch'

export type Sort =
  'loop' | 'bench' | 'procedure' | 'quick sum' | 'place' | 'action' | 'part' | 'instrument' | 'word'
/** Something that can be gone to, or done. */
export interface Entry {
  readonly id: string
  readonly sort: Sort
  readonly title: string
  /** What stands under it. */
  readonly hint: string
  /** Other ways of asking for it. */
  readonly also?: string
  /** Where it leads; an action has none and is done. */
  readonly to?: string
}
export interface SearchedLoop {
  readonly tag: string
  readonly service: string
  readonly area: string
}
interface BenchName {
  readonly id: string
  readonly title: string
}

const MOST = 24
const LOOPS_OF_A_BENCH = 3
/** As it is typed without its dashes. */
const squeezed = (tag: string) => tag.replace(/[^\p{L}\p{N}]/gu, '')
const loopPath = (tag: string, bench?: string) =>
  `/loops/${encodeURIComponent(tag)}${bench === undefined ? '' : `/${bench}`}`

const loopEntry = (l: SearchedLoop): Entry => ({
  id: `loop ${l.tag}`,
  sort: 'loop',
  title: `${l.tag}  ${l.service}`,
  hint: l.area,
  // Without its dashes, and its number alone: “ft101” and “ft 101” are ways of typing FT-101.
  also: `${squeezed(l.tag)} ${/\d+/.exec(l.tag)?.[0] ?? ''}`,
  to: loopPath(l.tag),
})
const benchEntry = (tag: string, b: BenchName): Entry => ({
  id: `bench ${tag} ${b.id}`,
  sort: 'bench',
  title: `${tag}  ${b.title}`,
  hint: 'bench',
  to: loopPath(tag, b.id),
})

function indexOf(entries: readonly Entry[]): (query: string) => Entry[] {
  const byId = new Map(entries.map((e) => [e.id, e]))
  const index = new MiniSearch<Entry>({
    fields: ['title', 'also', 'hint'],
    // A tag is one word: its letters alone are those of half the plant.
    tokenize: (text) => text.split(/[\s,.;:()“”"']+/u).filter(Boolean),
    searchOptions: {
      boost: { title: 4, also: 3 },
      prefix: (term) => term.length > 1,
      // One slip in a word of four letters, two in a long one; a number is meant as it is typed.
      fuzzy: (term) => (/\d/.test(term) || term.length < 4 ? false : term.length < 8 ? 1 : 2),
      combineWith: 'AND',
      maxFuzzy: 2,
    },
  })
  index.addAll(entries)
  return (query) => index.search(query).flatMap((hit) => byId.get(String(hit.id)) ?? [])
}

/**
 * Finds by what is typed: loops by tag or service, a bench of a loop (“FT-101 verify”), and everything else that has a
 * name here. Spelling is forgiven; numbers are not.
 */
export function finder(
  loops: readonly SearchedLoop[],
  benches: readonly BenchName[],
  others: readonly Entry[],
): (query: string) => Entry[] {
  const findLoops = indexOf(loops.map(loopEntry))
  const findOthers = indexOf(others)
  const byId = new Map(loops.map((l) => [`loop ${l.tag}`, l]))
  const tagsOf = (query: string) => findLoops(query).flatMap((e) => byId.get(e.id)?.tag ?? [])

  /** The bench that the last words of a query name, and what stands before them. */
  function benchAsked(words: readonly string[]): { bench: BenchName; rest: string } | null {
    for (const take of [2, 1]) {
      const asked = squeezed(words.slice(-take).join('')).toLowerCase()
      const bench =
        words.length > take && asked.length > 1
          ? benches.find((b) => squeezed(b.title).toLowerCase().startsWith(asked))
          : undefined
      if (bench) return { bench, rest: words.slice(0, -take).join(' ') }
    }
    return null
  }

  return (query) => {
    const words = query.trim().split(/\s+/).filter(Boolean)
    if (words.length === 0) return others.filter((e) => e.sort === 'place' || e.sort === 'action')
    const asked = benchAsked(words)
    const atBench = asked
      ? tagsOf(asked.rest)
          .slice(0, LOOPS_OF_A_BENCH)
          .map((tag) => benchEntry(tag, asked.bench))
      : []
    const found = findLoops(query)
    const exact = found.find(
      (e) => squeezed(byId.get(e.id)?.tag ?? '').toLowerCase() === squeezed(query).toLowerCase(),
    )
    const tag = exact && byId.get(exact.id)?.tag
    const [first, rest] = exact ? [[exact], found.filter((e) => e !== exact)] : [[], found]
    const ofExact = tag === undefined ? [] : benches.map((b) => benchEntry(tag, b))
    // A word, a place or an action is rarer than a loop and is not to be pushed out by many of them.
    const named = findOthers(query)
    return [
      ...atBench,
      ...first,
      ...ofExact,
      ...named.slice(0, MOST / 2),
      ...rest,
      ...named.slice(MOST / 2),
    ].slice(0, MOST)
  }
}
