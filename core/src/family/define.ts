import type { DeviceBehaviour } from '../device/behaviour.ts'
import type { Keyed } from '../device/keyed.ts'
import { asks } from '../quantity/condition.ts'
import { valuesOf, type Setting, type Typed } from '../quantity/setting.ts'
import type { EntriesOf, Family, FamilyDefinition, SensorUse, SettingGroup } from './family.ts'

/** What contradicts itself in a family's entries: two of one name, or a condition on what is not there. */
export function entryMistakes(settings: readonly Setting[]): string[] {
  const names = settings.map((s) => s.name)
  const twice = names.filter((n, i) => names.indexOf(n) !== i).map((n) => `${n} stands twice`)
  const asked = settings.flatMap((s) =>
    (s.when ? asks(s.when) : []).flatMap(({ name, is }) => {
      const other = settings.find((x) => x.name === name)
      if (!other) return [`${s.name} asks for ${name}, which is not there`]
      if (other.kind !== 'choice') return []
      return is
        .filter((v) => !other.options.some((o) => o.value === v))
        .map((v) => `${s.name} asks whether ${name} is ${String(v)}, which it cannot be`)
    }),
  )
  return [...twice, ...asked]
}

function sensorOf<S>(use: SensorUse<S> | undefined, entries: (typed: Typed) => S): Family['sensor'] {
  const fits = use?.fits
  return (
    use && {
      kind: use.kind,
      entries: (sensor) => use.entries(sensor) as Typed,
      ...(fits ? { fits: (typed: Typed, sensor: Typed) => fits(entries(typed), sensor) } : {}),
    }
  )
}

/** How its stand-in behaves, from what was typed. */
function deviceOf<S>(d: DeviceBehaviour<S>, entries: (typed: Typed) => S): DeviceBehaviour<Typed> {
  const { lost, gain, offset, toolFor, ...same } = d
  return {
    ...same,
    signals: (situation, typed) => d.signals(situation, entries(typed)),
    ...(toolFor ? { toolFor: (typed: Typed) => toolFor(entries(typed)) } : {}),
    ...(lost ? { lost: (typed: Typed) => lost(entries(typed)) } : {}),
    ...(offset ? { offset: (typed: Typed, keyed: Keyed) => offset(entries(typed), keyed) } : {}),
    ...(gain ? { gain: (typed: Typed, keyed: Keyed) => gain(entries(typed), keyed) } : {}),
  }
}
/** Kept as long as what was typed is: a stand-in asks for the same entries at every moment that is looked at. */
function remembered<S extends object>(make: (typed: Typed) => S): (typed: Typed) => S {
  const made = new WeakMap<Typed, S>()
  return (typed) => {
    const known = made.get(typed) ?? make(typed)
    made.set(typed, known)
    return known
  }
}

/**
 * A family of meters from its folder. Its own functions read typed entries; what comes out takes what was
 * typed and kept, and fills in the defaults.
 * @throws Error for entries that contradict themselves: a programming error
 */
export function defineFamily<const G extends readonly SettingGroup[]>(d: FamilyDefinition<G>): Family {
  const settings = d.groups.flatMap((g) => g.settings)
  const wrong = entryMistakes(settings)
  if (wrong.length > 0) throw new Error(`${d.id}: ${wrong.join('; ')}`)
  // The one place where values by name become the family's own type.
  const entries = remembered((typed) => valuesOf(settings, typed) as EntriesOf<G>)
  const on = <R>(f: ((s: EntriesOf<G>) => R) | undefined) => f && ((typed: Typed) => f(entries(typed)))
  const { id, title, groups, references, needs, needsRoot, start } = d
  const optional = {
    ranges: on(d.ranges),
    vessel: on(d.vessel),
    manifold: on(d.manifold),
    pressureKind: on(d.pressureKind),
    fluid: on(d.fluid),
    zeroInput: on(d.zeroInput),
    zeroLimits: on(d.zeroLimits),
    sensorLimits: on(d.sensorLimits),
    damping_s: on(d.damping_s),
    input: on(d.input),
    lit: on(d.lit),
    pulses: on(d.pulses),
    appliedBy: on(d.appliedBy),
    told:
      d.told &&
      ((typed: Typed, isTyped: (name: string) => boolean) =>
        d.told?.(entries(typed), (name) => isTyped(String(name))) ?? {}),
    rangeEntries: on(d.rangeEntries) as Family['rangeEntries'],
    start: start as Family['start'],
    needsRoot,
    whatIf: d.whatIf && {
      title: d.whatIf.title,
      inputs: (typed: Typed) => d.whatIf?.inputs(entries(typed)) ?? [],
      model: (typed: Typed) => d.whatIf?.model(entries(typed)) ?? null,
    },
    sensor: sensorOf(d.sensor, entries),
  }
  return {
    id,
    title,
    groups,
    settings,
    references,
    needs,
    usualWords: d.usualWords,
    compute: (typed, at) => d.compute(entries(typed), at),
    parts: (typed) => d.parts(entries(typed)),
    device: deviceOf(d.device, entries),
    ...(Object.fromEntries(Object.entries(optional).filter(([, v]) => v !== undefined)) as Partial<
      typeof optional
    > as object),
  }
}
