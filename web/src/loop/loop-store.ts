import { loops } from '@calm/contract/api/addresses'
import type { LoopDetail, RevisionConflict } from '@calm/contract/loops'
import type { SavedLoopDocument } from '@calm/contract/saved/saved'
import type { Finding } from '@calm/core/finding'
import { fieldAt, withField } from '@calm/core/loop/field-path'
import type { LineStep } from '@calm/core/loop/line-steps'
import type { LoopDocument } from '@calm/core/loop/document'
import { auditPath } from '@calm/core/scale/audit'
import { differences, mergeDocuments, type Merge } from '@calm/core/record/revision-difference'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { ApiProblem, call } from '../api/call.ts'
import { useLive } from '../api/live-cache.ts'
import type { CarriedReadings } from '../signal-path/carried.ts'

type Document = LoopDetail['document']

/** After the first picture, before anybody can have typed. */
const CHECK_AFTER_MS = 2000

/** One and the same, so that nothing is drawn again while nothing of it changes. */
const NOTHING_WRONG: ReadonlyMap<string, string> = new Map()
const NO_PATH: Document['path'] = []

const draftKey = (loopId: string) => `calm-draft/${loopId}`

/** Somebody saved meanwhile: both versions, joined as far as they do not clash. */
export interface Clash {
  readonly merge: Merge<Document>
  readonly theirs: RevisionConflict['theirs']
}

/** The open loop: as stored, as being changed, and how the two join when somebody was faster. */
export const useLoop = defineStore('loop', () => {
  const detail = shallowRef<LoopDetail | null>(null)
  const draft = shallowRef<Document | null>(null)
  /** The revision the draft was begun on, and its document: what counts as a change is told against it. */
  const base = ref(0)
  const baseDocument = shallowRef<Document | null>(null)
  const clash = shallowRef<Clash | null>(null)
  const problem = shallowRef<ApiProblem | null>(null)
  const saving = ref(false)
  /** The loop current that the signal path stands at, mA: what the wiring is solved for. */
  const current_mA = ref<number | null>(null)
  /** Where a diagnosis in progress sees the error come in; the line shows it instead of the stored steps. */
  const located = shallowRef<readonly LineStep[] | null>(null)
  /** What the bench in front of somebody has read last; the line carries it there. */
  const carried = shallowRef<CarriedReadings | null>(null)

  /**
   * The schema and the facts know every family and are large: fetched once the page stands, as what is stored
   * was checked by them; at once by a bench that asks.
   */
  const schema = shallowRef<typeof LoopDocument | null>(null)
  const facts_ = shallowRef<typeof import('@calm/core/loop/facts') | null>(null)
  const audit_ = shallowRef<typeof import('@calm/core/scale/audit-loop') | null>(null)
  const needSchema = () => {
    if (schema.value === null)
      void import('@calm/core/loop/document').then((m) => (schema.value = m.LoopDocument))
    needFacts()
  }
  const needFacts = () => {
    if (facts_.value !== null) return
    void import('@calm/core/loop/facts').then((m) => (facts_.value = m))
    void import('@calm/core/scale/audit-loop').then((m) => (audit_.value = m))
  }
  /** What the loop is, worked out once for every bench; null until it is here. */
  const facts = computed(() => (facts_.value && draft.value ? facts_.value.factsOf(draft.value) : null))

  /** What the ranges along the line say against each other; judged again once the facts are here. */
  const path = computed(() => draft.value?.path ?? NO_PATH)
  const needsRoot = computed(() => facts.value?.needsRoot ?? null)
  const audit = computed(() =>
    draft.value && facts.value && audit_.value
      ? audit_.value.auditLoop(draft.value, facts.value)
      : auditPath(path.value, needsRoot.value, draft.value?.tolerance ?? null),
  )

  const changes = computed(() =>
    baseDocument.value && draft.value ? differences(baseDocument.value, draft.value) : [],
  )
  const dirty = computed(() => changes.value.length > 0)
  /** What is wrong with the draft, by field path as technicians' forms use it. */
  const wrong = computed((): ReadonlyMap<string, string> => {
    if (!draft.value || draft.value === baseDocument.value) return NOTHING_WRONG
    // Somebody was faster than the schema: nothing is taken for right before it was checked.
    if (!schema.value) return new Map([['', 'One moment: what was typed is being checked.']])
    const parsed = schema.value.safeParse(draft.value)
    if (parsed.success) return NOTHING_WRONG
    return new Map(parsed.error.issues.map((i) => [namedPath(draft.value, i.path), i.message]))
  })

  function keepDraft(): void {
    if (!detail.value) return
    const key = draftKey(detail.value.id)
    if (dirty.value)
      localStorage.setItem(
        key,
        JSON.stringify({ base: base.value, baseDocument: baseDocument.value, document: draft.value }),
      )
    else localStorage.removeItem(key)
  }

  function take(loop: LoopDetail): void {
    detail.value = loop
    draft.value = loop.document
    baseDocument.value = loop.document
    base.value = loop.revision
    problem.value = null
    clash.value = null
  }

  /** A draft left behind by a closed lid comes back. */
  async function takeLeft(loopId: string): Promise<void> {
    const left = localStorage.getItem(draftKey(loopId))
    if (left === null) return
    needSchema()
    try {
      const kept = JSON.parse(left) as {
        base: number
        baseDocument: SavedLoopDocument
        document: SavedLoopDocument
      }
      const { currentLoopDocument } = await import('@calm/contract/saved/loop-document')
      draft.value = currentLoopDocument(kept.document)
      baseDocument.value = currentLoopDocument(kept.baseDocument)
      base.value = kept.base
    } catch {
      localStorage.removeItem(draftKey(loopId))
    }
  }

  const opened = ref<string | null>(null)
  const live = useLive(
    loops.one,
    () => (opened.value === null ? null : { loop: opened.value }),
    () => [detail.value?.id, detail.value?.tag],
  )
  /** The server's version came anew; a draft in progress stays as it is. */
  watch(
    live.data,
    (loop) => {
      if (!loop || loop.id !== detail.value?.id) return
      // Asked before a save that was answered first: what is here is newer.
      if (loop.revision < detail.value.revision) return
      if (dirty.value) detail.value = loop
      else take(loop)
    },
    { flush: 'sync' },
  )

  /**
   * Opens a loop.
   * @throws ApiProblem where it cannot be read
   */
  async function open(idOrTag: string): Promise<void> {
    opened.value = idOrTag
    await live.ready()
    const loop = live.data.value
    if (!loop) throw live.problem.value
    // Another one was opened meanwhile.
    if (opened.value !== idOrTag) return
    take(loop)
    setTimeout(needSchema, CHECK_AFTER_MS)
    await takeLeft(loop.id)
  }

  /** What a person typed for a value, kept beside it. */
  function keepTyped(path: string, typed: string): void {
    if (!draft.value) return
    draft.value = { ...draft.value, asTyped: { ...draft.value.asTyped, [path]: typed.slice(0, 80) } }
    keepDraft()
  }

  /** Changes one field of the draft; who changes an assumed value has confirmed it. */
  function setField(path: string, value: unknown): void {
    if (!draft.value) return
    // What nobody has confirmed is confirmed by who enters it, the same value too.
    if (fieldAt(draft.value, path) === value && !draft.value.unconfirmed.includes(path)) return
    needSchema()
    const next = withField(draft.value, path, value)
    draft.value = { ...next, unconfirmed: next.unconfirmed.filter((p) => p !== path) }
    keepDraft()
  }

  /** What a finding offers, put into the document. */
  async function mend({ fix }: Finding): Promise<void> {
    const { stage } = fix ?? {}
    if (stage) {
      const { withStage } = await import('@calm/core/loop/optional-stages')
      change((d) => ({ ...d, path: withStage(d.path, stage) }))
    }
    for (const { path: field, value } of fix?.set ?? []) setField(field, value)
  }

  /** The whole document changed at once, as another kind of meter changes it. */
  function change(to: (document: Document) => Document): void {
    if (!draft.value) return
    needSchema()
    draft.value = to(draft.value)
    keepDraft()
  }

  function confirm(path: string): void {
    if (!draft.value) return
    draft.value = { ...draft.value, unconfirmed: draft.value.unconfirmed.filter((p) => p !== path) }
    keepDraft()
  }

  async function save(reason: string): Promise<boolean> {
    if (!detail.value || !draft.value || saving.value) return false
    saving.value = true
    problem.value = null
    try {
      const body = { base: base.value, document: draft.value, reason }
      const loop = await call(loops.save, { loop: detail.value.id }, body)
      localStorage.removeItem(draftKey(loop.id))
      take(loop)
      return true
    } catch (error) {
      if (!(error instanceof ApiProblem)) throw error
      const told = error.problem as Partial<RevisionConflict>
      if (error.status === 409 && told.theirs && told.base)
        clash.value = {
          merge: mergeDocuments(told.base.document, draft.value, told.theirs.document),
          theirs: told.theirs,
        }
      else problem.value = error
      return false
    } finally {
      saving.value = false
    }
  }

  /** Goes on from the other's revision with my changes on top; `mineAt` are the clashing fields where mine wins. */
  async function resolve(mineAt: readonly string[], reason: string): Promise<boolean> {
    if (!clash.value) return false
    const { merge, theirs } = clash.value
    let merged = merge.merged
    for (const c of merge.conflicts.filter((x) => mineAt.includes(x.path)))
      for (const { path, value } of c.takes) merged = withField(merged, path, value)
    draft.value = merged
    baseDocument.value = theirs.document
    base.value = theirs.number
    clash.value = null
    keepDraft()
    return save(reason)
  }

  function discard(): void {
    if (!detail.value) return
    localStorage.removeItem(draftKey(detail.value.id))
    take(detail.value)
  }

  return {
    detail,
    draft,
    base,
    clash,
    problem,
    saving,
    current_mA,
    located,
    carried,
    changes,
    dirty,
    wrong,
    open,
    path,
    facts,
    audit,
    needFacts,
    setField,
    change,
    mend,
    keepTyped,
    confirm,
    save,
    resolve,
    discard,
  }
})

/** A schema's path with list positions replaced by the stage's kind: path.4.range → path.controller.range. */
function namedPath(document: unknown, path: readonly PropertyKey[]): string {
  const keys = path.map(String)
  if (keys[0] === 'path' && keys[1] !== undefined) {
    const stage = (document as Document).path[Number(keys[1])]
    if (stage) keys[1] = stage.kind
  }
  return keys.join('.')
}
