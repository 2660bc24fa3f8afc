/**
 * What every judgement returns. One component shows it everywhere.
 * stop: do not go on like this; warn: look at it; note: good to know; good: checked and right.
 */
export type Severity = 'stop' | 'warn' | 'note' | 'good'

export interface Evidence {
  readonly label: string
  readonly value: number | string
  readonly unit?: string
}

/** A change to the loop document that mends what was found: field path and the value to put there. */
export interface Fix {
  readonly label: string
  /** A stage that the signal path has not and that comes first. */
  readonly stage?: 'frequency'
  readonly set: readonly { readonly path: string; readonly value: number | string | boolean | null }[]
}

export interface Finding {
  /** Stable, in capitals; tests and translations hang on it. */
  readonly code: string
  readonly severity: Severity
  /** A stage, terminal, field or step; the field path for wrong input. */
  readonly where: readonly string[]
  /** One sentence: the thing, the number, what to do. */
  readonly says: string
  readonly evidence?: readonly Evidence[]
  readonly fix?: Fix
  /** The rule behind it, in words or as a standard and clause. */
  readonly rule?: string
}

const ORDER: readonly Severity[] = ['stop', 'warn', 'note', 'good']

/** Worst first; equal ones keep their order. */
export const worstFirst = (findings: readonly Finding[]): Finding[] =>
  [...findings].sort((a, b) => ORDER.indexOf(a.severity) - ORDER.indexOf(b.severity))

/** The worst severity among the findings, 'good' when there are none. */
export const worstOf = (findings: readonly Finding[]): Severity => worstFirst(findings)[0]?.severity ?? 'good'
