/** Columns of a loop list, in the order they are exported. */
export const LIST_COLUMNS = [
  { id: 'tag', title: 'Tag', also: ['tag no', 'tag number', 'loop', 'loop tag', 'position'] },
  { id: 'service', title: 'Service', also: ['description', 'name', 'designation'] },
  { id: 'area', title: 'Area', also: ['unit area', 'plant area', 'section', 'location'] },
  { id: 'type', title: 'Type', also: ['instrument type', 'measurement', 'kind'] },
  { id: 'lrv', title: 'LRV', also: ['lower range value', 'range low', 'low', '4 ma', 'min', '0 %'] },
  { id: 'urv', title: 'URV', also: ['upper range value', 'range high', 'high', '20 ma', 'max', '100 %'] },
  { id: 'unit', title: 'Unit', also: ['units', 'eu', 'engineering unit', 'uom'] },
  { id: 'transfer', title: 'Transfer', also: ['characteristic', 'function', 'linear/sqrt'] },
  { id: 'signal', title: 'Signal', also: ['output', 'signal type'] },
  { id: 'receiverLrv', title: 'Receiver LRV', also: ['dcs low', 'controller low', 'scale low'] },
  { id: 'receiverUrv', title: 'Receiver URV', also: ['dcs high', 'controller high', 'scale high'] },
  { id: 'receiverUnit', title: 'Receiver unit', also: ['dcs unit', 'controller unit', 'scale unit'] },
  { id: 'tolerance', title: 'Tolerance (% span)', also: ['tolerance', 'accuracy', 'mpe', 'limit %'] },
  {
    id: 'interval',
    title: 'Interval (months)',
    also: ['interval', 'period', 'cal interval', 'frequency (months)'],
  },
  {
    id: 'lastCalibrated',
    title: 'Last calibrated',
    also: ['last cal', 'calibrated', 'last calibration', 'cal date'],
  },
  { id: 'remark', title: 'Remark', also: ['remarks', 'comment', 'comments', 'note', 'notes'] },
  { id: 'floor', title: 'Floor', also: ['storey', 'story', 'deck', 'platform'] },
  { id: 'assignee', title: 'Assigned to', also: ['assignee', 'responsible', 'technician', 'owner'] },
] as const

export type ListColumn = (typeof LIST_COLUMNS)[number]['id']
export const LIST_COLUMN_IDS = LIST_COLUMNS.map((c) => c.id) as [ListColumn, ...ListColumn[]]

/** Which column of a file (by position) holds which column of ours; null is left out. */
export type ColumnMapping = readonly (ListColumn | null)[]

const fold = (s: string) =>
  s
    .toLowerCase()
    .replace(/[_\-.:()[\]]/g, ' ')
    .replace(/\s+/g, ' ')
    .trim()

/** The mapping that the headings suggest. Unknown headings stay null: a person decides. */
export function suggestMapping(headings: readonly string[]): ColumnMapping {
  const taken = new Set<ListColumn>()
  return headings.map((heading) => {
    const h = fold(heading)
    const hit = LIST_COLUMNS.find(
      (c) => !taken.has(c.id) && (fold(c.title) === h || c.also.some((a) => fold(a) === h)),
    )
    if (hit) taken.add(hit.id)
    return hit?.id ?? null
  })
}
