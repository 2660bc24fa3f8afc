import type { LogJudgement } from '@calm/contract/logs'
import { FEWEST_JUDGED, LOG_FINDINGS } from '@calm/core/logs/findings/finding'
import type { LogSaying } from '@calm/core/logs/say-finding'
import { sayCount } from '@calm/core/quantity/round'

export interface LogAnswer {
  readonly state: 'good' | 'look' | 'stop' | 'notYet'
  readonly word: string
  readonly says: string
}

const notJudged = (says: string): LogAnswer => ({ state: 'notYet', word: 'not judged', says })

/** What the judgement of a stretch came to: good is said with its evidence, and what was not judged is said. */
export function answerOf(asked: {
  /** Of the stretch that is meant; null until it is known. */
  readonly judgement: LogJudgement | null
  /** It is on its way. */
  readonly isAsked: boolean
  readonly found: readonly LogSaying[]
  /** Lines of the log that could not be read. */
  readonly unread: number
  /** The drawing shows more than what is judged. */
  readonly isHeld: boolean
}): LogAnswer {
  const { judgement: j, isAsked, found, unread, isHeld } = asked
  if (!j) return notJudged(isAsked ? 'Being judged.' : '')
  if (!j.statistics) return notJudged('No value lies in this stretch.')
  if (j.findings === null)
    return notJudged(
      `More than ${j.most / 1e6} million samples: summed up, not judged. Judge it part by part, or choose a shorter stretch.`,
    )
  const inParts = j.parts === null ? '' : `, judged in ${j.parts} parts`
  const samples = `${sayCount(j.statistics.n)} samples${isHeld ? ' of the held stretch alone' : ''}${inParts}`
  const range = j.against
    ? 'held against the range of the loop'
    : 'not held against a range: this channel is not what the loop measures, or its unit is missing'
  if (found.length > 0) {
    const worst = (['stop', 'warn'] as const).find((sev) => found.some((f) => f.severity === sev))
    return {
      state: worst === 'stop' ? 'stop' : worst === 'warn' ? 'look' : 'notYet',
      word: worst === 'stop' ? 'Stop' : worst === 'warn' ? 'Look' : 'Note',
      says: `${found.length} ${found.length === 1 ? 'finding' : 'findings'} in ${samples}; ${range}.`,
    }
  }
  if (j.statistics.n < FEWEST_JUDGED)
    return notJudged(`${j.statistics.n} samples are too few to be judged: ${FEWEST_JUDGED} are needed.`)
  if (unread > 0)
    return {
      state: 'notYet',
      word: 'nothing found in what could be read',
      says: `${sayCount(unread)} of its lines could not be read: nothing is said of them; ${range}.`,
    }
  return {
    state: j.against ? 'good' : 'notYet',
    word: j.against ? 'nothing found' : 'nothing found, range not judged',
    says: `None of the ${LOG_FINDINGS.length} kinds of finding in ${samples}; ${range}.`,
  }
}
