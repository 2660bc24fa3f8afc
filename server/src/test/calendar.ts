import ICAL from 'ical.js'

const MOST_OCTETS = 75

interface CalendarEvent {
  readonly uid: string
  readonly starts: string
  readonly ends: string | null
  readonly summary: string
  /** Minutes before it begins at which a calendar program tells of it. */
  readonly alarms_min: readonly number[]
}

/**
 * A calendar read as a calendar program does, by a parser that is not the one that wrote it, and held against what
 * every such program needs: ends of lines, their length, version, and of each event its identity, stamp and times.
 * @throws Error with what is wrong
 * @see RFC 5545, 3.1, 3.6, 3.6.1, 3.6.6
 */
export function readCalendar(text: string): CalendarEvent[] {
  const wrong = (says: string): never => {
    throw new Error(says)
  }
  if (/[^\r]\n|\r[^\n]/.test(text)) wrong('a line does not end in CR LF')
  for (const line of text.split('\r\n'))
    if (Buffer.byteLength(line) > MOST_OCTETS) wrong(`more than ${MOST_OCTETS} octets: ${line}`)
  const calendar = new ICAL.Component(ICAL.parse(text) as unknown[])
  for (const name of ['version', 'prodid'])
    if (calendar.getAllProperties(name).length !== 1) wrong(`${name} stands not once`)
  if (calendar.getFirstPropertyValue('version') !== '2.0') wrong('not version 2.0')
  const events = calendar.getAllSubcomponents('vevent').map((c): CalendarEvent => {
    for (const name of ['uid', 'dtstamp', 'dtstart'])
      if (c.getAllProperties(name).length !== 1) wrong(`an event has ${name} not once`)
    const event = new ICAL.Event(c)
    if (c.hasProperty('dtend') && event.endDate.compare(event.startDate) <= 0)
      wrong(`${event.summary} ends before it begins`)
    const alarms_min = c.getAllSubcomponents('valarm').map((alarm) => {
      for (const name of ['action', 'trigger', 'description'])
        if (!alarm.hasProperty(name)) wrong(`an alarm has no ${name}`)
      const trigger = alarm.getFirstPropertyValue('trigger')
      if (!(trigger instanceof ICAL.Duration)) return wrong('an alarm is not so long before its event')
      return -trigger.toSeconds() / 60
    })
    return {
      uid: event.uid,
      starts: event.startDate.toString(),
      ends: c.hasProperty('dtend') ? event.endDate.toString() : null,
      summary: event.summary,
      alarms_min,
    }
  })
  if (new Set(events.map((e) => e.uid)).size !== events.length) wrong('two events have one identity')
  return events
}
