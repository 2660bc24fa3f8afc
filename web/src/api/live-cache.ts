import type { Address } from '@calm/contract/api/addresses'
import type { AnswerOf, NamedOf } from '@calm/contract/api/api'
import { ANSWERS, CHANGES, HEARS, type News } from '@calm/contract/api/news'
import {
  computed,
  onScopeDispose,
  shallowReactive,
  toValue,
  watch,
  type ComputedRef,
  type MaybeRefOrGetter,
} from 'vue'
import { ApiProblem, call, onWritten, sayProblem } from './call.ts'
import { onNews } from './live.ts'
import { oneAtATime } from './one-at-a-time.ts'

/** An address that is read, not changed. */
export type ReadAddress = Extract<Address, `GET ${string}`>

/** loading: nothing is here yet; failed: nothing came; stale: what is here is older than what the server has, or may be. */
export type LiveState = 'loading' | 'ready' | 'stale' | 'failed'

interface Entry {
  readonly address: ReadAddress
  readonly named: Readonly<Record<string, unknown>>
  /** Identifiers and tags that news of this may name. */
  loops: ReadonlySet<string>
  answer: unknown
  state: LiveState
  /** Why the last look failed; null where it did not. */
  problem: unknown
  /** How many places on screen show it. */
  users: number
  /** The first look since it is shown. */
  first: Promise<void> | null
  readonly look: () => Promise<void>
  timer: ReturnType<typeof setTimeout> | undefined
}

/** What nobody shows any more is kept so long, for whoever comes back. */
const KEEP_MS = 120_000
/** What failed in passing is looked at again after this, as long as it is shown. */
const AGAIN_MS = 3_000
/** News of the whole plant come in crowds (an import): they make one look. */
const QUIET_MS = 400

const entries = new Map<string, Entry>()
const keyOf = (address: Address, named: object) => `${address} ${JSON.stringify(named)}`

/** The same question may be answered a moment later: nobody has to touch anything for that. */
const passes = (error: unknown): boolean =>
  error instanceof ApiProblem && (error.passing || error.status === 429)

function entryOf(address: ReadAddress, named: Readonly<Record<string, unknown>>): Entry {
  const key = keyOf(address, named)
  const known = entries.get(key)
  if (known) return known
  const entry: Entry = shallowReactive({
    address,
    named,
    loops: new Set<string>(),
    answer: null,
    state: 'loading',
    problem: null,
    users: 0,
    first: null,
    timer: undefined,
    look: oneAtATime(async () => {
      try {
        entry.answer = await call(address, named as NamedOf<ReadAddress>)
        entry.state = 'ready'
        entry.problem = null
      } catch (error) {
        entry.state = entry.answer === null ? 'failed' : 'stale'
        entry.problem = error
        if (!passes(error) || entry.users === 0) return
        clearTimeout(entry.timer)
        entry.timer = setTimeout(() => entry.users > 0 && void entry.look(), AGAIN_MS)
      }
    }),
  })
  entries.set(key, entry)
  return entry
}

/** Looks again where it is shown; what is not shown is only known to be old. */
function doubt(entry: Entry): void {
  if (entry.state === 'ready') entry.state = 'stale'
  if (entry.users === 0) return
  if (entry.loops.size > 0) return void entry.look()
  clearTimeout(entry.timer)
  entry.timer = setTimeout(() => void entry.look(), QUIET_MS)
}

const concerns = (entry: Entry, news: News): boolean =>
  (HEARS[entry.address]?.includes(news.what) ?? false) &&
  (entry.loops.size === 0 ||
    // News of many loops at once names none.
    (news.loopId === undefined && news.tag === undefined) ||
    [news.loopId, news.tag].some((name) => name !== undefined && entry.loops.has(name)))

function hear(news: News | null): void {
  for (const entry of entries.values()) if (news === null || concerns(entry, news)) doubt(entry)
}
onNews(hear)
onWritten((address, named, answer) => {
  const what = CHANGES[address]
  if (!what) return
  const loop = named['loop']
  const news: News = { what, ...(typeof loop === 'string' ? { loopId: loop } : {}) }
  for (const entry of entries.values())
    if (!concerns(entry, news)) continue
    else if (entry.address === ANSWERS[address])
      Object.assign(entry, { answer, state: 'ready', problem: null })
    else doubt(entry)
})

/** Another person is here, or nobody: nothing of before is shown to them. */
export function forgetAnswers(): void {
  for (const [key, entry] of entries) {
    clearTimeout(entry.timer)
    if (entry.users === 0) entries.delete(key)
    else Object.assign(entry, { answer: null, state: 'loading', first: null })
  }
}

export interface Live<T> {
  /** The newest answer, or null. */
  readonly data: ComputedRef<T | null>
  readonly state: ComputedRef<LiveState>
  /** What went wrong at the last look; null where nothing did. */
  readonly says: ComputedRef<string | null>
  readonly problem: ComputedRef<unknown>
  readonly reload: () => Promise<void>
  /** When the first look is over, however it came out. */
  readonly ready: () => Promise<void>
}

/**
 * What the server says at an address, kept newest as long as it is on screen: read once however many show it, read
 * again when somebody changed it, and told to be old while that is on its way.
 * @param named - names of the path and the query; null where there is nothing to look at yet
 * @param ofLoops - other names of the loop it belongs to, by which news may call it
 */
export function useLive<A extends ReadAddress>(
  address: A,
  named: MaybeRefOrGetter<NamedOf<A> | null>,
  ofLoops: MaybeRefOrGetter<readonly (string | undefined)[]> = [],
): Live<AnswerOf<A>> {
  const entry = computed(() => {
    const now = toValue(named)
    return now === null ? null : entryOf(address, now)
  })
  const leave = (e: Entry | null) => {
    if (!e || --e.users > 0) return
    clearTimeout(e.timer)
    e.first = null
    e.timer = setTimeout(() => {
      if (e.users === 0) entries.delete(keyOf(e.address, e.named))
    }, KEEP_MS)
  }
  watch(
    entry,
    (now, before) => {
      leave(before ?? null)
      if (!now) return
      clearTimeout(now.timer)
      now.users += 1
      // Whoever else shows it has asked already, or is told when it changes.
      if (now.state !== 'ready') now.first ??= now.look()
    },
    { immediate: true, flush: 'sync' },
  )
  watch(
    [entry, () => toValue(ofLoops)],
    ([now, names]) => {
      const loop = now?.named['loop']
      const all = [...(typeof loop === 'string' ? [loop] : []), ...names].filter((n) => n !== undefined)
      if (now) now.loops = new Set([...now.loops, ...all])
    },
    { immediate: true, flush: 'sync' },
  )
  onScopeDispose(() => leave(entry.value))
  return {
    // What this address answers was checked against this type on its way out.
    data: computed(() => (entry.value?.answer ?? null) as AnswerOf<A> | null),
    state: computed(() => entry.value?.state ?? 'loading'),
    says: computed(() => (entry.value?.problem ? sayProblem(entry.value.problem) : null)),
    problem: computed(() => entry.value?.problem ?? null),
    reload: () => entry.value?.look() ?? Promise.resolve(),
    ready: () => entry.value?.first ?? Promise.resolve(),
  }
}
