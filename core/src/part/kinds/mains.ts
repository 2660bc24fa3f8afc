import { term, definePart } from '../part-kind.ts'
import { number } from '../../quantity/setting.ts'

/** A mains circuit with its breaker. The circuit solver leaves mains alone; continuity decides. */
export const mains = definePart({
  kind: 'mains',
  title: 'Mains circuit',
  place: 'rack',
  duty: 'mains',
  prefix: 'Q',
  settings: [number('voltage_V', 'Voltage', 'V AC', 230, 85, 264)],
  terminals: () => [term('L', 'L', 'L', 'left'), term('N', 'N', 'N', 'left'), term('PE', 'PE', 'PE', 'left')],
  label: (s) => `${s.voltage_V} V AC`,
  elements: () => [],
  caution: (s) =>
    `${s.voltage_V} V can kill. Isolate, lock, prove dead with a proved tester; local code decides who may open it.`,
  kit: ['proved voltage tester', 'lock and tag'],
})
