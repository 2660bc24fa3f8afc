/** This window, among all that hear the same news. */
export const WINDOW = crypto.randomUUID()
