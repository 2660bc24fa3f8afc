import type { PositionTry, SurveyHead } from '@calm/core/survey/site-shape'
import type { Typed } from '@calm/core/quantity/setting'

/** A site while it is worked on: it survives a closed lid, and is gone once it is kept. */
export interface SiteDraft {
  readonly values: Typed
  readonly tries: readonly PositionTry[]
  readonly note: string
  readonly log: string | null
  readonly stay: readonly string[]
  /** How often it had been kept when this was begun. */
  readonly after: number
}
export type Head = Pick<SurveyHead, 'title' | 'on'>

const key = (what: 'survey' | 'site', id: string) => `calm-${what}-${id}`
function read(name: string): unknown {
  try {
    return JSON.parse(localStorage.getItem(name) ?? 'null')
  } catch {
    return null
  }
}
function write(name: string, value: unknown): void {
  try {
    localStorage.setItem(name, JSON.stringify(value))
  } catch {
    // No room, or not allowed: it stays on the page until it is kept.
  }
}

/** Words of a survey that has no site yet. */
export const headDraft = {
  of: (survey: string) => read(key('survey', survey)) as Head | null,
  keep: (survey: string, head: Head) => {
    write(key('survey', survey), head)
  },
  letGo: (survey: string) => {
    localStorage.removeItem(key('survey', survey))
  },
}
export const siteDraft = {
  of: (site: string) => read(key('site', site)) as SiteDraft | null,
  keep: (site: string, draft: SiteDraft) => {
    write(key('site', site), draft)
  },
  letGo: (site: string) => {
    localStorage.removeItem(key('site', site))
  },
}
