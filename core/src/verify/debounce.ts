export interface Edge {
  readonly t: number
  readonly level: boolean
}
/** Edges after a bounce filter: accepted at the first edge of a run that stands for the filter's time. */
export function debounce(edges: readonly Edge[], filter_s: number, end_s: number, start = false): Edge[] {
  const out: Edge[] = []
  let state = start
  let candidate: number | null = null
  const settle = (t: number) => {
    if (candidate !== null && t - candidate >= filter_s) {
      state = !state
      out.push({ t: candidate, level: state })
      candidate = null
    }
  }
  for (const e of edges) {
    settle(e.t)
    if (e.level !== state) candidate ??= e.t
    else candidate = null
  }
  settle(end_s)
  return out
}
