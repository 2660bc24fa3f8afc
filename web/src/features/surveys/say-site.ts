import type { PartState } from '@calm/core/loop/parts'

/** What a verdict on a place means for who reads its numbers. */
export const SITE_WORDS: Readonly<Record<PartState, string>> = {
  good: 'good',
  look: 'with care',
  stop: 'do not use',
  notYet: 'not judged',
}
