import type { Memory } from '@calm/core/circuit/element'
import { TYPICAL_PLACE, type SensingPlace } from '@calm/core/family/switch/sensing-judgement'
import type { Finding } from '@calm/core/finding'
import { AT_REST, energise, type BenchState, type Energised } from '@calm/core/part/energise'
import type { Fault } from '@calm/core/part/fault'
import { withParts, type OwnPart } from '@calm/core/part/own-part'
import {
  knownParts,
  NOTHING_WIRED,
  Wiring,
  withCopy,
  withName,
  withoutPart,
  withoutWire,
  withSetting,
  withWire,
  type Wire,
  type WiredPart,
} from '@calm/core/part/wiring'
import { usualColour } from '@calm/core/wire/connect/colours'
import { explain } from '@calm/core/wire/explain'
import { FRESH_ORDER, orderAfter, type MeterOrder } from '@calm/core/wire/meter-order'
import { judgeWiring } from '@calm/core/wire/proof/judge'
import { NOTHING_MEANT, type Meant } from '@calm/core/wire/proof/states'
import { tellJudgement } from '@calm/core/wire/proof/told'
import { computed, ref, shallowRef, toValue, watch, type MaybeRefOrGetter } from 'vue'

import { useCulprit } from './use-culprit.ts'

export interface Selection {
  readonly kind: 'part' | 'wire' | 'terminal'
  readonly id: string
}

const MOST_STEPS_BACK = 100

/**
 * The Wire bench: a wiring that is changed step by step with a way back, and its circuit, solved anew
 * whenever anything moves.
 */
export function useWiringBench(
  stored: MaybeRefOrGetter<Wiring>,
  current_mA: MaybeRefOrGetter<number | null>,
  keep: (wiring: Wiring) => void,
  meant: MaybeRefOrGetter<Meant> = NOTHING_MEANT,
) {
  const wiring = computed(() => toValue(stored))
  const past = shallowRef<readonly Wiring[]>([])
  const future = shallowRef<readonly Wiring[]>([])
  const power = ref(true)
  const actuated = ref<readonly string[]>([])
  const faults = shallowRef<readonly Fault[]>([])
  const selection = shallowRef<Selection | null>(null)
  /** Terminal a wire is being drawn from. */
  const picked = ref<string | null>(null)
  /** How far the work with the meter is: what was done with the power on is not done in order. */
  const meterOrder = shallowRef<MeterOrder>(FRESH_ORDER)

  /** What was typed may be impossible for a moment; the last possible wiring stays drawn and solved. */
  const sound = shallowRef<Wiring>(NOTHING_WIRED)
  watch(wiring, (w) => Wiring.safeParse(w).success && (sound.value = w), { immediate: true })

  const state = computed((): BenchState => ({
    power: power.value,
    current_mA: toValue(current_mA) ?? AT_REST.current_mA,
    actuated: actuated.value,
    faults: faults.value.filter((f) => standing(f)),
    relays: toValue(meant).relays,
  }))
  /** A fault whose wire or part has gone is gone with it. */
  function standing(f: Fault): boolean {
    if ('wire' in f) return f.wire in sound.value.wires
    return 'part' in f ? f.part in sound.value.parts : true
  }

  let memory: ReadonlyMap<string, Memory> = new Map()
  const solved = shallowRef<Energised>(energise(NOTHING_WIRED, AT_REST))
  function solve(): void {
    solved.value = energise(sound.value, state.value, memory)
    memory = solved.value.memory
  }
  watch([sound, state], solve, { immediate: true })
  watch(power, (on) => (meterOrder.value = orderAfter(meterOrder.value, wiring.value, wiring.value, on)))

  /** Of the wiring alone: whatever is done on the bench, right stays right and wrong stays wrong. */
  const judgement = computed(() => judgeWiring(sound.value, toValue(meant)))
  const culprit = useCulprit(() =>
    judgement.value.verdict === 'wrong' && faults.value.length === 0
      ? { wiring: sound.value, meant: toValue(meant) }
      : null,
  )
  const findings = computed((): Finding[] =>
    tellJudgement(
      sound.value,
      state.value,
      solved.value,
      judgement.value,
      explain(sound.value, state.value, solved.value),
      culprit.value,
    ),
  )
  function putRight(): void {
    if (culprit.value) change(culprit.value.wiring)
  }
  /** What was read in the field, by state and test point; it outlives the view that it is typed in. */
  const fieldReadings = ref<Record<string, Record<string, number | null>>>({})
  /** The instrument that it is read with, by its id. */
  const meterUsed = ref<string | null>(null)
  const readWith = (id: string | null) => (meterUsed.value = id)
  /** Where the target stands and how fast it goes. */
  const sensing = ref<SensingPlace>({ ...TYPICAL_PLACE })
  /** Steps of the power-up checklist that were ticked, by their words; they outlive the view as well. */
  const ticked = ref<ReadonlySet<string>>(new Set())
  function tick(step: string, on: boolean): void {
    const next = new Set(ticked.value)
    if (on) next.add(step)
    else next.delete(step)
    ticked.value = next
  }
  function readInField(during: string, point: string, value: number | null): void {
    const here = { ...fieldReadings.value[during], [point]: value }
    fieldReadings.value = { ...fieldReadings.value, [during]: here }
  }
  const blown = computed(() =>
    Object.entries(solved.value.values).some(([name, v]) => name.startsWith('state(') && v === 'blown'),
  )

  function change(next: Wiring): void {
    if (next === wiring.value) return
    past.value = [...past.value.slice(-MOST_STEPS_BACK), wiring.value]
    future.value = []
    meterOrder.value = orderAfter(meterOrder.value, wiring.value, next, power.value)
    keep(next)
  }
  function undo(): void {
    const before = past.value.at(-1)
    if (!before) return
    future.value = [wiring.value, ...future.value]
    past.value = past.value.slice(0, -1)
    selection.value = null
    keep(before)
  }
  function redo(): void {
    const [after] = future.value
    if (!after) return
    past.value = [...past.value, wiring.value]
    future.value = future.value.slice(1)
    keep(after)
  }

  const connectTerminals = (from: string, to: string) =>
    change(withWire(wiring.value, from, to, { colour: usualColour(wiring.value, from, to) }))

  /** First terminal, then the second: a wire. The same one twice lets go. */
  function pick(terminal: string): void {
    if (picked.value === null || picked.value === terminal) {
      picked.value = picked.value === null ? terminal : null
      selection.value = picked.value === null ? null : { kind: 'terminal', id: terminal }
      return
    }
    const from = picked.value
    picked.value = null
    selection.value = null
    connectTerminals(from, terminal)
  }

  /** So many parts of a kind, or of the plant's own; the last of them is chosen. */
  function addParts(what: string | OwnPart, number: string, count: number): void {
    const next = withParts(wiring.value, what, number, count)
    const id = Object.keys(next.parts).find((p) => !(p in wiring.value.parts))
    change(next)
    if (id !== undefined) selection.value = { kind: 'part', id }
  }
  /** Another name, its wires with it. @returns why not, or null */
  function rename(id: string, name: string): string | null {
    const next = withName(wiring.value, id, name)
    if ('kind' in next) return next.says
    change(next)
    selection.value = { kind: 'part', id: name }
    return null
  }
  function duplicate(id: string): void {
    const copy = withCopy(wiring.value, id)
    if (!copy) return
    change(copy.wiring)
    selection.value = { kind: 'part', id: copy.name }
  }
  /** Where it stands, or what is printed on it. */
  function setPart(id: string, more: Partial<Pick<WiredPart, 'place' | 'nameplate'>>): void {
    const part = wiring.value.parts[id]
    if (part) change({ ...wiring.value, parts: { ...wiring.value.parts, [id]: { ...part, ...more } } })
  }
  function removeSelected(): void {
    const s = selection.value
    if (s?.kind === 'part') change(withoutPart(wiring.value, s.id))
    if (s?.kind === 'wire') change(withoutWire(wiring.value, s.id))
    selection.value = null
    picked.value = null
  }
  const setSetting = (id: string, name: string, value: number | string | boolean) =>
    change(withSetting(wiring.value, id, name, value))
  function setWire(id: string, part: Partial<Wire>): void {
    const wire = wiring.value.wires[id]
    if (wire) change({ ...wiring.value, wires: { ...wiring.value.wires, [id]: { ...wire, ...part } } })
  }

  /** Chooses a part or a wire, or lets go of everything; what was chosen already is let go. */
  function select(s: Selection | null): void {
    picked.value = null
    const same = selection.value?.kind === s?.kind && selection.value?.id === s?.id
    selection.value = same ? null : s
  }
  function mend(fault: Fault): void {
    faults.value = faults.value.filter((f) => f !== fault)
  }

  function toggle(part: string): void {
    actuated.value = actuated.value.includes(part)
      ? actuated.value.filter((p) => p !== part)
      : [...actuated.value, part]
  }
  function putFault(fault: Fault): void {
    faults.value = [...faults.value, fault]
  }
  /** New fuses in the loop and in the meter; relays and inputs start afresh. */
  function replaceFuses(): void {
    memory = new Map()
    solve()
  }

  const parts = computed(() => knownParts(sound.value))
  const movable = computed(() =>
    parts.value.flatMap((p) => {
      const words = p.kind.actuate?.(p.s)
      return words ? [{ id: p.id, ...words }] : []
    }),
  )
  return {
    wiring,
    sound,
    parts,
    movable,
    state,
    solved,
    findings,
    judgement,
    culprit,
    fieldReadings,
    readInField,
    meterUsed,
    readWith,
    sensing,
    ticked,
    tick,
    putRight,
    blown,
    power,
    actuated,
    faults,
    selection,
    picked,
    meterOrder,
    canUndo: computed(() => past.value.length > 0),
    canRedo: computed(() => future.value.length > 0),
    change,
    undo,
    redo,
    pick,
    connectTerminals,
    addParts,
    rename,
    duplicate,
    setPart,
    removeSelected,
    setSetting,
    setWire,
    select,
    mend,
    toggle,
    putFault,
    replaceFuses,
  }
}
export type WiringBench = ReturnType<typeof useWiringBench>
