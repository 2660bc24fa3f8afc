import { ref, type Ref } from 'vue'
import { sayLogTime, type TimesAs } from './say-time.ts'

/** Which end of a stretch is touched next; null where none is being chosen. */
export type Choosing = 'begin' | 'end' | null
interface Ends {
  readonly from: number
  readonly to: number
}

/** What is held, or what is to be touched next. */
export function sayHeld(held: Ends | null, choosing: Choosing, times: TimesAs): string {
  if (choosing === 'begin') return 'Touch the drawing where the stretch begins.'
  if (choosing === 'end') return 'Touch the drawing where it ends.'
  return held
    ? `Held, judged and taken out: ${sayLogTime(held.from, times)} – ${sayLogTime(held.to, times)}`
    : ''
}

/** A held stretch of a log: by what is seen, or by a touch at each of its ends. */
export function useHeld(seen: Readonly<Ref<Ends>>) {
  const held = ref<Ends | null>(null)
  const choosing = ref<Choosing>(null)
  let begin = 0
  return {
    held,
    choosing,
    holdSeen: (): void => {
      held.value = { ...seen.value }
      choosing.value = null
    },
    choose: (): void => {
      choosing.value = 'begin'
    },
    letGo: (): void => {
      held.value = null
      choosing.value = null
    },
    /** A moment was touched: an end of the stretch where one is being chosen. Two touches at one moment hold nothing. */
    touched: (at: number): void => {
      if (choosing.value === 'begin') {
        begin = at
        choosing.value = 'end'
      } else if (choosing.value === 'end' && at !== begin) {
        held.value = { from: Math.min(begin, at), to: Math.max(begin, at) }
        choosing.value = null
      }
    },
  }
}
