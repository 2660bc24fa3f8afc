/** Mean line of a window of readings. */
export interface Window {
  readonly n: number
  readonly window_s: number
  /** Scatter about the line, and its slope a second. */
  readonly scatter: number
  readonly slope: number
}

/** Shares of the tolerance that a slope over the window and the mean's own scatter may make. */
const [DRIFT_SHARE, NOISE_SHARE] = [0.1, 0.05]

export const hasDrift = ({ slope, window_s }: Pick<Window, 'slope' | 'window_s'>, allowed: number): boolean =>
  Math.abs(slope) * window_s > DRIFT_SHARE * allowed
export const isNoisy = ({ scatter, n }: Pick<Window, 'scatter' | 'n'>, allowed: number): boolean =>
  scatter / Math.sqrt(n) > NOISE_SHARE * allowed
/** Neither moving nor lost in its noise, by what may be wrong of it. */
export const isStill = (w: Window, allowed: number): boolean => !hasDrift(w, allowed) && !isNoisy(w, allowed)
/** How long a window has to be until this noise has averaged out, s. @param every_s - between samples */
export const quietAfter_s = (scatter: number, allowed: number, every_s: number): number =>
  every_s * (scatter / (NOISE_SHARE * allowed)) ** 2
