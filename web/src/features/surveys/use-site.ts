import { logs, loops, surveys } from '@calm/contract/api/addresses'
import { familyOf } from '@calm/core/family/index'
import { entriesOfSensor, untoldOfSensor } from '@calm/core/family/sensor-choice'
import { valuesOf, type SettingValue, type Typed } from '@calm/core/quantity/setting'
import { judgeSite, missingEntries } from '@calm/core/survey/judge-site'
import { entriesOfLoop } from '@calm/core/survey/of-loop'
import { SITE_GROUPS, SURVEY_FAMILY } from '@calm/core/survey/site'
import type { PositionTry } from '@calm/core/survey/site-shape'
import type { Sensor } from '@calm/contract/sensors'
import type { KeepSite } from '@calm/contract/surveys'
import { shownSettings } from '@calm/core/quantity/setting'
import { computed, ref, watch } from 'vue'
import { call } from '../../api/call.ts'
import { plantTime } from '../../api/clock.ts'
import { useLive } from '../../api/live-cache.ts'
import { useSubmit } from '../../api/submit.ts'
import { keptPictures } from '../../ui/kept-pictures.ts'
import { headDraft, siteDraft, type SiteDraft } from './survey-drafts.ts'

const family = familyOf(SURVEY_FAMILY)
const EMPTY: SiteDraft = { values: {}, tries: [], note: '', log: null, stay: [], after: 0 }

/** One place of a survey: what is entered and tried, what it is worth by that, and keeping it. */
export function useSite(props: { readonly survey: string; readonly tag: string; readonly site: string }) {
  const survey = useLive(surveys.one, () => ({ survey: props.survey }))
  const loop = useLive(loops.one, () => ({ loop: props.tag }))
  const all = useLive(logs.list, {})
  const head = computed(() => survey.data.value ?? headDraft.of(props.survey))
  /** As it was kept last; null where it never was. */
  const kept = computed(
    () => survey.data.value?.sites.find((s) => s.site === props.site && s.tag === props.tag) ?? null,
  )
  const own = computed(() => (loop.data.value ? entriesOfLoop(loop.data.value.document) : null))
  const draft = ref<SiteDraft>(siteDraft.of(props.site) ?? EMPTY)
  const begun = ref(siteDraft.of(props.site) !== null)
  const pictures = ref<string[]>([])
  // A place that was kept goes on from there; a new one from what the loop's own set-up knows of its pipe.
  function fill(): void {
    if (begun.value || survey.state.value === 'loading' || loop.state.value === 'loading') return
    const k = kept.value
    if (k)
      draft.value = {
        ...k.found,
        log: k.log?.id ?? null,
        stay: k.pictures.map((p) => p.sha256),
        after: k.keeping,
      }
    else if (own.value) draft.value = { ...EMPTY, values: own.value }
  }
  watch([kept, own, () => survey.state.value, () => loop.state.value], fill, { immediate: true })
  function change(d: Partial<SiteDraft>): void {
    begun.value = true
    draft.value = { ...draft.value, ...d }
    siteDraft.keep(props.site, draft.value)
  }
  /** Somebody kept it since this was begun. */
  const clash = computed(() =>
    begun.value && kept.value && kept.value.keeping !== draft.value.after ? kept.value : null,
  )
  function takeTheirs(): void {
    siteDraft.letGo(props.site)
    begun.value = false
    fill()
  }
  const keepMine = () => {
    if (clash.value) change({ after: clash.value.keeping, stay: clash.value.pictures.map((p) => p.sha256) })
  }
  const set = (name: string, value: SettingValue) => {
    change({ values: { ...draft.value.values, [name]: value } })
  }
  const full = computed((): Typed => valuesOf(family?.settings ?? [], draft.value.values))
  const valueOf = (name: string): SettingValue => full.value[name] ?? ''
  const groups = computed(() =>
    SITE_GROUPS.map((g) => ({ ...g, settings: shownSettings(g.settings, full.value) })),
  )
  const confirm = (names: readonly string[]) => {
    change({
      values: { ...draft.value.values, ...Object.fromEntries(names.map((n) => [n, valueOf(n)])) },
    })
  }
  const missing = computed(() => missingEntries(draft.value.values))
  function pick(sensor: Sensor | null): void {
    if (!sensor || !family) return
    const untold = new Set(untoldOfSensor(family, sensor.description))
    const plate = Object.entries(entriesOfSensor(family, sensor.description)).filter(([n]) => !untold.has(n))
    change({ values: { ...draft.value.values, ...Object.fromEntries(plate) } })
  }

  const logsHere = computed(() =>
    (all.data.value ?? []).filter((l) => l.tag === props.tag && l.state === 'kept'),
  )
  const logId = computed(() => draft.value.log)
  const told = ref<Awaited<ReturnType<typeof askLog>>>(null)
  const askLog = async (id: string | null) =>
    id === null ? null : call(surveys.logOfSite, { loop: props.tag, log: id })
  watch(
    logId,
    async (id) => {
      told.value = null
      const answer = await askLog(id).catch(() => null)
      if (id === logId.value) told.value = answer
    },
    { immediate: true },
  )

  const judged = computed(() => judgeSite(draft.value, told.value, own.value, head.value?.on ?? null))
  const result = computed(() => family?.compute(draft.value.values, { current_mA: null, root: null }) ?? null)

  const { busy, says, submit, at } = useSubmit()
  // One identifier a keeping: a second press stores nothing twice.
  let sent = crypto.randomUUID()
  async function keep(): Promise<boolean> {
    const h = head.value
    if (!h) return false
    const { values, tries, note, log, stay, after } = draft.value
    const done = await submit(async () => {
      await call(
        surveys.keepSite,
        { loop: props.tag },
        {
          id: sent,
          at: plantTime(),
          survey: { id: props.survey, title: h.title, on: h.on },
          site: props.site,
          after,
          found: { values: values as KeepSite['found']['values'], tries: [...tries], note: note.trim() },
          log,
          pictures: pictures.value,
          stay: [...stay],
        },
      )
    })
    if (!done) return false
    sent = crypto.randomUUID()
    siteDraft.letGo(props.site)
    headDraft.letGo(props.survey)
    pictures.value = []
    await keptPictures.keep(`site-${props.site}`, [])
    begun.value = false
    return true
  }
  return {
    ...{ head, kept, draft, begun, pictures, groups, set, valueOf, change, confirm, missing, pick },
    ...{ clash, takeTheirs, keepMine },
    ...{ logsHere, told, judged, result, busy, says, at, keep, loop },
    addTry: (t: PositionTry) => {
      change({ tries: [...draft.value.tries, t] })
    },
    dropTry: (i: number) => {
      change({ tries: draft.value.tries.filter((_t, k) => k !== i) })
    },
  }
}
