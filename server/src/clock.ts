/** The server's clock. An argument, so that a test does not depend on the day it runs on. */
export type Clock = () => Date

export const systemClock: Clock = () => new Date()
