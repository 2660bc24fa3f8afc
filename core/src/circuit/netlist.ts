import { elementKind } from './elements/index.ts'
import type { ElementKind, Params, ParamValue } from './element.ts'

/** The 0 V reference; earth is an ordinary node, joined to it only where somebody wires it. */
export const GROUND = '0'

export interface NetElement {
  readonly id: string
  readonly type: string
  /** Node of each terminal; a terminal left out hangs free. */
  readonly nodes: Readonly<Record<string, string>>
  readonly params: Readonly<Record<string, ParamValue>>
}

/** A change between two solutions: a parameter's new value, or a terminal's new node. */
export type Change = readonly [element: string, name: string, value: ParamValue]

export interface NetProblem {
  readonly path: string
  readonly says: string
}

/** What is wrong with one element, by field; an element without problems can be solved. */
export function elementProblems(e: NetElement, at: string): NetProblem[] {
  const kind = elementKind(e.type)
  if (!kind) return [{ path: `${at}.type`, says: `There is no element type “${e.type}”.` }]
  const out: NetProblem[] = []
  for (const t of Object.keys(e.nodes))
    if (!kind.terminals.includes(t) && !kind.optional?.includes(t))
      out.push({
        path: `${at}.nodes.${t}`,
        says: `A ${e.type} has no terminal “${t}”. It has ${[...kind.terminals, ...(kind.optional ?? [])].join(', ')}.`,
      })
  for (const [name, value] of Object.entries(e.params)) {
    const says = paramProblem(kind, name, value)
    if (says) out.push({ path: `${at}.params.${name}`, says: `${e.id}: ${says}` })
  }
  for (const [name, standard] of Object.entries(kind.params))
    if (standard === null && e.params[name] === undefined)
      out.push({ path: `${at}.params.${name}`, says: `${e.id}: a ${e.type} needs ${name}.` })
  return out
}

function paramProblem(kind: ElementKind, name: string, value: ParamValue): string | null {
  if (!Object.hasOwn(kind.params, name))
    return `a ${kind.type} has no ${name}. It has ${Object.keys(kind.params).join(', ')}.`
  const choices = kind.choices?.[name]
  if (choices)
    return choices.includes(value) ? null : `${name} is one of ${choices.join(', ')}, not “${value}”.`
  const standard = kind.params[name]
  if (typeof standard === 'boolean') return typeof value === 'boolean' ? null : `${name} is true or false.`
  if (name === 'iecClass')
    return value === 'none' || value === 2 || value === 5 ? null : 'iecClass is none, 2 or 5.'
  if (typeof value !== 'number' || !Number.isFinite(value) || Math.abs(value) > 1e12)
    return `${name} is a number.`
  if (kind.positive?.includes(name) && value <= 0) return `${name} is ${value}; it must be above 0.`
  if (kind.notNegative?.includes(name) && value < 0) return `${name} is ${value}; it cannot be below 0.`
  return null
}

/** Parameters of an element over the defaults of its kind. */
export function paramsOf(e: NetElement, kind: ElementKind): Params {
  const out: Record<string, ParamValue | undefined> = {}
  for (const name of Object.keys(kind.params)) out[name] = e.params[name] ?? kind.params[name] ?? undefined
  return out
}

/** The netlist after changes; a name that is a terminal of the element re-lands it, else it is a parameter. */
export function changed(
  elements: readonly NetElement[],
  changes: readonly Change[],
): { elements: NetElement[]; problems: NetProblem[] } {
  const problems: NetProblem[] = []
  let out = [...elements]
  changes.forEach(([id, name, value], i) => {
    const e = out.find((x) => x.id === id)
    const kind = e && elementKind(e.type)
    if (!e || !kind) {
      problems.push({ path: `set.${i}`, says: `There is no element “${id}”.` })
      return
    }
    const terminal = kind.terminals.includes(name) || kind.optional?.includes(name)
    const next: NetElement = terminal
      ? { ...e, nodes: { ...e.nodes, [name]: String(value) } }
      : { ...e, params: { ...e.params, [name]: value } }
    problems.push(...elementProblems(next, `set.${i}`))
    out = out.map((x) => (x.id === id ? next : x))
  })
  return { elements: out, problems }
}
