import type { Log } from '@calm/contract/logs'

/** Where a log is seen, or gone on with while it is not whole. */
export function placeOf(log: Pick<Log, 'tag' | 'id' | 'state' | 'source'>): string {
  if (log.state === 'kept') return `/logs/${log.tag}/${log.id}`
  const isRecorded = log.source === 'link' || log.source === 'typed'
  return `/logs/${isRecorded ? 'record' : 'read-in'}?loop=${log.tag}&log=${log.id}`
}
