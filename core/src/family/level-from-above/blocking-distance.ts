import type { EchoSetUp } from './echo.ts'

/** The nearest point that has to be measured. */
export const nearest_m = (s: EchoSetUp): number => Math.min(s.full_m, s.at4_m, s.at20_m)
/** Whether it lies inside the blocking distance, where the transducer still rings. */
export const fullInBlocking = (s: EchoSetUp): boolean => nearest_m(s) + s.offset_m < s.blocking_m
