import { useLocalStorage } from '@vueuse/core'

/** Which step of the tour is next; null before it was begun and after it was left. */
const step = useLocalStorage<number | null>('calm-tour', null, {
  serializer: { read: Number, write: String },
})
const SEEN = 'calm-tour-seen'

export interface TourStep {
  readonly title: string
  readonly says: string
}
/** Three steps, no more: the plant, the line, and where everything else is found. */
export const TOUR: readonly TourStep[] = [
  {
    title: 'The plant',
    says: 'Each row is a loop. The five marks are its parts, from the wiring to the last verification. Open PT-202.',
  },
  {
    title: 'The line',
    says: 'Along the top of a loop runs its signal, from the process to the controller. It is flat where everything agrees and steps where an error comes in. The six benches stand above it, in the order of work.',
  },
  {
    title: 'Everything else',
    says: 'Press / or Search and type what you want: a tag, “FT-101 verify”, “zero trim”, a word you do not know. Press ? for the keys.',
  },
]

/** Once for a browser: who comes to the demo plant for the first time is shown round. */
export function beginTour(): void {
  if (localStorage.getItem(SEEN) !== null) return
  localStorage.setItem(SEEN, 'yes')
  step.value = 0
}
export function useTour() {
  const leave = () => (step.value = null)
  const next = () => (step.value = (step.value ?? 0) + 1 < TOUR.length ? (step.value ?? 0) + 1 : null)
  return { step, leave, next }
}
