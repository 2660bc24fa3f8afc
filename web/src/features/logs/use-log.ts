import { logs } from '@calm/contract/api/addresses'
import type { Log, LogJudgement, LogView } from '@calm/contract/logs'
import { sayFindings, type LogSaying } from '@calm/core/logs/say-finding'
import { printedUnit } from '@calm/core/quantity/units'
import { refDebounced } from '@vueuse/core'
import { computed, ref, shallowRef, watch, type Ref } from 'vue'
import { call, GivenUp, sayProblem } from '../../api/call.ts'
import { againOnce } from '../../api/long-work.ts'
import { useHeld } from './use-held.ts'

const DRAWN_AFTER_MS = 60
const JUDGED_AFTER_MS = 350
const MOST_PIXELS = 2000

/** A channel that is drawn: of this log, or of another one of its loop. */
export interface Choice {
  readonly log: Log
  readonly channel: number
}

/** The stretch that is looked at: drawn as wide as the screen, judged once it stands still. */
export function useStretch(log: Readonly<Ref<Log | null>>, width: Readonly<Ref<number>>) {
  const channel = ref(0)
  const beside = shallowRef<readonly Choice[]>([])
  const from = ref(0)
  const to = ref(1)
  const whole = computed(() => {
    const l = log.value
    const [a, b] = [l?.from ?? 0, l?.to ?? 1]
    return { from: a, to: b > a ? b : a + 1 }
  })
  const look = (a: number, b: number): void => {
    const wide = Math.min(Math.max(b - a, 2), whole.value.to - whole.value.from)
    from.value = Math.max(whole.value.from, Math.min(a, whole.value.to - wide))
    to.value = from.value + wide
  }
  const all = (): void => {
    look(whole.value.from, whole.value.to)
  }
  /** A part of what is seen further on, or nearer. */
  const move = (parts: number): void => {
    const by = parts * (to.value - from.value)
    look(from.value + by, to.value + by)
  }
  const zoom = (times: number): void => {
    const [middle, half] = [(from.value + to.value) / 2, ((to.value - from.value) * times) / 2]
    look(middle - half, middle + half)
  }
  watch(whole, all, { immediate: true })

  const main = shallowRef<LogView | null>(null)
  /** Each with what it is of: a choice that is new has none yet. */
  const besides = shallowRef<readonly { readonly choice: Choice; readonly view: LogView }[]>([])
  const judgement = shallowRef<LogJudgement | null>(null)
  /** The stretch that the judgement speaks of. */
  const judgedOf = ref('')
  const says = ref<string | null>(null)
  /** The newest look counts; what was asked before is let go. */
  function latest() {
    let given: AbortController | null = null
    return async (work: (given: AbortSignal) => Promise<void>) => {
      given?.abort()
      const mine = (given = new AbortController())
      try {
        await work(mine.signal)
        says.value = null
      } catch (error) {
        if (!(error instanceof GivenUp)) says.value = sayProblem(error)
      }
    }
  }
  const [drawing, drawingBeside, judging] = [latest(), latest(), latest()]
  const viewOf = (l: Log, c: number, given: AbortSignal) =>
    call(
      logs.view,
      {
        loop: l.tag,
        log: l.id,
        channel: c,
        from: from.value,
        to: to.value,
        width: Math.max(50, Math.min(MOST_PIXELS, Math.round(width.value))),
      },
      undefined,
      given,
    )
  const drawn = refDebounced(
    computed(() => `${from.value} ${to.value} ${Math.round(width.value)} ${log.value?.id ?? ''}`),
    DRAWN_AFTER_MS,
  )
  watch([drawn, channel], () => {
    const l = log.value
    if (l?.state === 'kept')
      void drawing(async (given) => void (main.value = await viewOf(l, channel.value, given)))
  })
  watch([drawn, beside], () => {
    const chosen = beside.value
    void drawingBeside(async (given) => {
      besides.value = await Promise.all(
        chosen.map(async (choice) => ({ choice, view: await viewOf(choice.log, choice.channel, given) })),
      )
    })
  })
  const holding = useHeld(computed(() => ({ from: from.value, to: to.value })))
  watch(() => log.value?.id, holding.letGo)
  /** What everything speaks of: the stretch that is held, or what is seen. */
  const of = computed(() => holding.held.value ?? { from: from.value, to: to.value })
  const seen = computed(() => `${of.value.from} ${of.value.to} ${channel.value} ${log.value?.id ?? ''}`)
  const judged = refDebounced(seen, JUDGED_AFTER_MS)
  watch(judged, () => {
    const l = log.value
    if (l?.state !== 'kept') return
    const asked = judged.value
    void judging(async (given) => {
      judgement.value = await call(
        logs.judgement,
        { loop: l.tag, log: l.id, channel: channel.value, ...of.value },
        undefined,
        given,
      )
      judgedOf.value = asked
    })
  })
  /** Judges what is too long to be judged at once, part by part. */
  async function judgeByParts(given: AbortSignal): Promise<void> {
    const l = log.value
    if (!l) return
    const asked = seen.value
    const stretch = { loop: l.tag, log: l.id, channel: channel.value, ...of.value, byParts: 'true' } as const
    // Cut off by a slow line, or longer than an answer may take: the parts that are judged are not judged again.
    const told = await againOnce(() => call(logs.judgement, stretch, undefined, given))
    // Somebody who looked elsewhere meanwhile finds it when they look here again.
    if (seen.value !== asked) return
    judgement.value = told
    judgedOf.value = asked
  }
  const unit = computed(() => log.value?.channels[channel.value]?.unit ?? null)
  const found = computed((): readonly LogSaying[] =>
    sayFindings(judgement.value?.findings ?? [], unit.value === null ? '' : printedUnit(unit.value)),
  )
  return {
    channel,
    beside,
    from,
    to,
    whole,
    look,
    all,
    move,
    zoom,
    main,
    besides,
    of,
    ...holding,
    judgement,
    judgeByParts,
    isCurrent: computed(() => judgedOf.value === seen.value),
    says,
    unit,
    found,
  }
}
