import { today } from '@calm/contract/api/addresses'
import type { JobTold, Place, PlanTold, ProgressTold } from '@calm/contract/today'
import { dayAfter } from '@calm/core/today/from-loop'
import { sayPlace } from '@calm/core/today/place'
import { computed, inject, provide, ref, shallowRef, type InjectionKey } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { call } from '../../api/call.ts'
import { useLive } from '../../api/live-cache.ts'
import { useSession } from '../../api/session-store.ts'
import { useSubmit } from '../../api/submit.ts'

/** Some days as they are planned, and everything that can be done to them. */
function makePlan() {
  const route = useRoute()
  const router = useRouter()
  const session = useSession()
  const asked = computed(() => {
    const day = route.query['day']
    return typeof day === 'string' && /^\d{4}-\d{2}-\d{2}$/.test(day) ? day : undefined
  })
  const days = computed(() => (route.query['days'] === '5' ? 5 : 1))
  const live = useLive(today.plan, () => ({
    days: days.value,
    ...(asked.value === undefined ? {} : { day: asked.value }),
  }))
  /** What a change of the plan was answered, until the next look brings the same. */
  const answered = shallowRef<PlanTold | null>(null)
  const plan = computed(() => {
    const [a, b] = [answered.value, live.data.value]
    const isNewer = a !== null && b !== null && a.now > b.now && a.day === b.day && a.days === b.days
    return isNewer ? a : b
  })
  const jobs = computed(() => new Map((plan.value?.jobs ?? []).map((j) => [j.key, j])))
  const progress = computed(() => new Map((plan.value?.progress ?? []).map((p) => [p.job, p])))
  const nameOf = computed(() => new Map((plan.value?.people ?? []).map((p) => [p.id, p.name])))
  const { busy, says, submit, at } = useSubmit()
  const mayPlan = computed(() =>
    ['planner', 'technician', 'reviewer'].includes(session.person?.role ?? 'viewer'),
  )

  const goTo = (query: { day?: string; days?: number }) =>
    router.push({
      query: {
        ...route.query,
        ...(query.day === undefined ? {} : { day: query.day }),
        days: (query.days ?? days.value) === 5 ? '5' : undefined,
      },
    })
  const step = (n: number) => plan.value && void goTo({ day: dayAfter(plan.value.day, n * days.value) })

  const stretch = () => ({
    day: plan.value?.day ?? '',
    days: days.value,
    base: plan.value?.made?.id ?? null,
  })
  const change = (work: () => Promise<PlanTold>) =>
    submit(async () => {
      answered.value = await work()
    })
  /** What came of looking again; null where nothing has to be said. */
  const note = ref<string | null>(null)
  async function make(how: 'planned' | 'from now', milliseconds = 2000): Promise<void> {
    const before = plan.value?.made?.id
    note.value = null
    const body = { id: crypto.randomUUID(), ...stretch(), how, milliseconds }
    const done = await change(() => call(today.makePlan, {}, body))
    if (done && before !== undefined && answered.value?.made?.id === before)
      note.value = 'Nothing better was found: the plan stays as it is.'
  }
  const place = (job: string, to: Place['to'], locked?: boolean) =>
    change(() =>
      call(
        today.place,
        {},
        { id: crypto.randomUUID(), ...stretch(), job, to, ...(locked === undefined ? {} : { locked }) },
      ),
    )
  function undo() {
    const base = plan.value?.made?.id
    return base === undefined
      ? Promise.resolve(false)
      : change(() => call(today.undo, {}, { ...stretch(), id: crypto.randomUUID(), base }))
  }
  const mark = (job: string, kind: Exclude<ProgressTold['state'], 'gone'>, reason: string) =>
    call(
      today.mark,
      {},
      { id: crypto.randomUUID(), day: plan.value?.day ?? '', job, mark: kind, reason },
    ).then(() => live.reload())

  /** Jobs of a person in their order. */
  const agenda = (person: string) =>
    (plan.value?.placings ?? [])
      .filter((p) => p.person === person || p.helper === person)
      .sort((a, b) => a.start.localeCompare(b.start))
  /** Jobs that have no place, the most important first. */
  const unplaced = computed((): JobTold[] => {
    const placed = new Set(
      [...(plan.value?.placings ?? []), ...(plan.value?.elsewhere ?? [])].map((p) => p.job),
    )
    return (plan.value?.jobs ?? [])
      .filter((j) => !placed.has(j.key) && (progress.value.get(j.key)?.state ?? 'open') === 'open')
      .sort(
        (a, b) =>
          (b.wish.importance ?? b.importance) - (a.wish.importance ?? a.importance) ||
          a.due.localeCompare(b.due),
      )
  })
  const placeOf = (key: string): string => {
    const job = jobs.value.get(key)
    return job ? sayPlace(job) : ''
  }
  /** The job whose dialog is open. */
  const opened = ref<string | null>(null)
  return {
    ...{ plan, days, live, jobs, progress, nameOf, busy, says, at, mayPlan, opened, unplaced, placeOf },
    ...{ note, goTo, step, make, place, undo, mark, agenda },
  }
}
export type Plan = ReturnType<typeof makePlan>
const KEY: InjectionKey<Plan> = Symbol('plan')

export function providePlan(): Plan {
  const plan = makePlan()
  provide(KEY, plan)
  return plan
}
/** @throws Error outside of the page of the day: a fault of ours */
export function usePlan(): Plan {
  const plan = inject(KEY)
  if (!plan) throw new Error('no plan here')
  return plan
}
