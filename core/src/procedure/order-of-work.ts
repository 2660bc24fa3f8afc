/** Events of the work at a loop, in their order, and the state each leads to. */
export const WORK_STEPS = [
  ['notify', 'NOTIFIED'],
  ['manual', 'MANUAL'],
  ['bypassTrips', 'BYPASSED'],
  ['isolate', 'ISOLATED'],
  ['vent', 'VENTED'],
  ['connect', 'CONNECTED'],
  ['startAsFound', 'AS_FOUND'],
  ['finishAsFound', 'AS_FOUND_DONE'],
  ['adjust', 'ADJUSTED'],
  ['finishAsLeft', 'AS_LEFT_DONE'],
  ['disconnect', 'DISCONNECTED'],
  ['restore', 'RESTORED'],
  ['check', 'CHECKED'],
  ['unbypass', 'UNBYPASSED'],
  ['auto', 'AUTO'],
  ['close', 'CLOSED'],
] as const
/** What brings a loop to where it can be worked at: it stands until somebody undoes it. */
export const OPENING = ['notify', 'manual', 'bypassTrips', 'isolate', 'vent', 'connect'] as const
export type OpeningEvent = (typeof OPENING)[number]
export type WorkEvent = (typeof WORK_STEPS)[number][0]
export type WorkState = 'IDLE' | (typeof WORK_STEPS)[number][1]

const stateAfter = new Map<WorkEvent, WorkState>(WORK_STEPS.map(([e, s]) => [e, s]))
const STATES: readonly WorkState[] = ['IDLE', ...WORK_STEPS.map(([, s]) => s)]

/** What may come next: the next event, and the two ways round an adjustment. */
export function nextEvents(state: WorkState): WorkEvent[] {
  const next = WORK_STEPS[STATES.indexOf(state)]?.[0]
  if (!next) return []
  if (state === 'AS_FOUND_DONE') return [next, 'disconnect']
  if (state === 'AS_LEFT_DONE') return [next, 'adjust']
  return [next]
}

export interface WorkResult {
  readonly state: WorkState
  readonly refusedAt: number | null
  readonly event: string | null
  readonly expectedNext: readonly WorkEvent[]
}
/** Follows events from idle; the first that is not allowed is told and changes nothing. */
export function followWork(events: readonly string[], from: WorkState = 'IDLE'): WorkResult {
  let state = from
  for (const [i, event] of events.entries()) {
    const allowed = nextEvents(state)
    if (!allowed.some((e) => e === event)) return { state, refusedAt: i, event, expectedNext: allowed }
    state = stateAfter.get(event as WorkEvent) ?? state
  }
  return { state, refusedAt: null, event: null, expectedNext: nextEvents(state) }
}

export type AbortStep = WorkEvent | 'releaseFixed' | 'revertTrim' | 'spotCheck' | 'ventStandard'
const BACK: readonly AbortStep[] = ['restore', 'check', 'unbypass', 'auto', 'close']
const FROM_CONNECTED: readonly AbortStep[] = ['ventStandard', 'disconnect', ...BACK]

/** The safe way back from any state; every way ends with the operators told. */
export function abortSteps(state: WorkState, fixedCurrent = false): AbortStep[] {
  const steps = ((): readonly AbortStep[] => {
    switch (state) {
      case 'IDLE':
      case 'CLOSED':
        return []
      case 'NOTIFIED':
        return ['close']
      case 'MANUAL':
        return ['auto', 'close']
      case 'BYPASSED':
        return ['unbypass', 'auto', 'close']
      case 'ISOLATED':
      case 'VENTED':
      case 'DISCONNECTED':
        return BACK
      case 'CONNECTED':
      case 'AS_FOUND':
      case 'AS_FOUND_DONE':
      case 'AS_LEFT_DONE':
        return FROM_CONNECTED
      case 'ADJUSTED':
        return ['revertTrim', 'spotCheck', ...FROM_CONNECTED]
      case 'RESTORED':
        return BACK.slice(1)
      case 'CHECKED':
        return BACK.slice(2)
      case 'UNBYPASSED':
        return BACK.slice(3)
      case 'AUTO':
        return BACK.slice(4)
    }
  })()
  return fixedCurrent ? ['releaseFixed', ...steps] : [...steps]
}

/** What a named person confirms before an event; events without an entry need nobody. */
export const HOLD_POINTS: Partial<Readonly<Record<WorkEvent, readonly string[]>>> = {
  isolate: [
    'The operators were told.',
    'Manual is confirmed by tag.',
    'Every trip and interlock is listed and bypassed.',
    'Another indication is agreed.',
  ],
  vent: ['Medium, pressure, temperature and drain path are known.', 'Residual pressure was proven zero.'],
  connect: ['The standard is in date and of the right range.'],
  adjust: ['As-found is closed and its result was shown.', 'The action is justified by the readings.'],
  unbypass: ['The reading agrees with the process or a neighbour.', 'It is not in the trip region.'],
  auto: ['The setpoint tracks: the change is bumpless.'],
}
