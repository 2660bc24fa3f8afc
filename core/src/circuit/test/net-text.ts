import { elementKind } from '../elements/index.ts'
import type { ParamValue } from '../element.ts'
import type { Change, NetElement } from '../netlist.ts'

/** One expected item: `V(A,B) 19.3737`, `find(REVERSED LT-301)`, `bit(DI-307) undefined`. */
export interface Expected {
  readonly item: string
  readonly value: string
}
export interface Step {
  readonly changes: readonly Change[]
  readonly expected: readonly Expected[]
}
export interface NetText {
  readonly elements: readonly NetElement[]
  readonly steps: readonly Step[]
}

function valueOf(text: string): ParamValue {
  if (text === 'true' || text === 'false') return text === 'true'
  return text !== '' && Number.isFinite(Number(text)) ? Number(text) : text
}

const expectations = (text: string): Expected[] =>
  text
    .split(';')
    .map((s) => s.trim())
    .filter(Boolean)
    .map((s) => {
      const at = s.lastIndexOf(')') + 1
      return { item: s.slice(0, at), value: s.slice(at).trim() }
    })

const assignment = (text: string): [string, string] => {
  const at = text.indexOf('=')
  return [text.slice(0, at), text.slice(at + 1)]
}

/** Reads the netlists that the worked examples are written in. */
export function parseNet(text: string): NetText {
  const elements: NetElement[] = []
  const steps: { changes: Change[]; expected: Expected[] }[] = [{ changes: [], expected: [] }]
  for (const line of text.split('\n').map((l) => l.trim())) {
    if (line === '') continue
    if (line.startsWith('=')) steps.at(-1)?.expected.push(...expectations(line.slice(1)))
    else if (line.startsWith('>')) {
      const [sets = '', results = ''] = line.slice(1).split('=>')
      const changes = sets
        .trim()
        .split(/\s+/)
        .map((s): Change => {
          const [name, value] = assignment(s)
          const dot = name.indexOf('.')
          return [name.slice(0, dot), name.slice(dot + 1), valueOf(value)]
        })
      steps.push({ changes, expected: expectations(results) })
    } else
      for (const part of line.split(';').map((p) => p.trim())) {
        if (part === '') continue
        const [id = '', type = '', ...rest] = part.split(/\s+/)
        const kind = elementKind(type)
        const nodes: Record<string, string> = {}
        const params: Record<string, ParamValue> = {}
        for (const [name, value] of rest.map(assignment))
          if (kind?.terminals.includes(name) || kind?.optional?.includes(name)) nodes[name] = value
          else params[name] = name === 'jack' || name === 'dial' ? value : valueOf(value)
        elements.push({ id, type, nodes, params })
      }
  }
  return { elements, steps }
}
