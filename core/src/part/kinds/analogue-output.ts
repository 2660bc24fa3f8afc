import { element, term, definePart } from '../part-kind.ts'
import { number } from '../../quantity/setting.ts'

/** One channel of a 4-20 mA output card: it drives what stands in the field. */
export const analogueOutput = definePart({
  kind: 'analogue-output',
  title: '4-20 mA output',
  place: 'rack',
  duty: 'transmitter',
  prefix: 'AO',
  wiredAs: 'active',
  settings: [number('compliance_V', 'Drives up to', 'V', 17, 2, 40)],
  terminals: () => [term('plus', 'out+', 'loop+', 'left'), term('minus', 'out−', 'loop-', 'left')],
  label: (s) => `drives up to ${Math.floor(s.compliance_V / 0.0225)} Ω`,
  elements: (p) => [
    element(
      p,
      'tx4active',
      { plus: 'plus', minus: 'minus' },
      { i: p.power ? p.live.current_mA / 1000 : 0, vCompliance: p.s.compliance_V },
    ),
  ],
  testPoints: () => [['plus', 'minus', 'at the output']],
  caution: () => 'It moves a valve or a drive: the operators have it in manual before the loop is opened.',
  firstSign: () => 'its channel lamp lights; an open loop shows as a fault',
})
