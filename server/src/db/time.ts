/** Instants leave the server as ISO text in UTC with milliseconds: hashes depend on it. */
export const isoInstant = (d: Date): string => d.toISOString()
