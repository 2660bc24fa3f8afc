import { element, term, definePart } from '../part-kind.ts'
import { choice, flag, number } from '../../quantity/setting.ts'

/** A proximity or magnet sensor with three or four wires. @see IEC 60947-5-2 */
export const proximityThreeWire = definePart({
  kind: 'proximity-three-wire',
  title: '3-wire sensor',
  place: 'field',
  duty: 'sensor',
  prefix: 'ZS',
  settings: [
    choice('out', 'Output', 'pnp', {
      pnp: 'PNP, switches +',
      npn: 'NPN, switches 0 V',
      pp: 'push-pull',
    }),
    choice('fn', 'Function', 'no', { no: 'NO, conducts when present', nc: 'NC, conducts when absent' }),
    flag('second', 'Second output, the opposite (white)', false),
    number('load_mA', 'Output carries', 'mA', 200, 1, 1000),
    number('min_V', 'Lowest supply', 'V', 10, 4, 36),
    number('max_V', 'Highest supply', 'V', 30, 5, 60),
  ],
  terminals: (s) => [
    term('bn', '1 BN', 'bn', 'right'),
    term('bk', '4 BK', 'bk', 'right'),
    ...(s.second ? [term('wh', '2 WH', 'wh', 'right')] : []),
    term('bu', '3 BU', 'bu', 'right'),
  ],
  actuate: () => ({ on: 'target present', off: 'no target' }),
  label: (s) =>
    `${s.out === 'pp' ? 'push-pull' : s.out.toUpperCase()} ${s.fn.toUpperCase()}, ${s.load_mA} mA`,
  elements: (p) => [
    element(
      p,
      'sensor3',
      { bn: 'bn', bu: 'bu', bk: 'bk', ...(p.s.second && p.wired('wh') ? { wh: 'wh' } : {}) },
      {
        out: p.s.out,
        fn: p.s.fn,
        target: p.live.actuated,
        iMax: p.s.load_mA / 1000,
        iSc: (p.s.load_mA * 1.5) / 1000,
        vMin: p.s.min_V,
        vMax: p.s.max_V,
      },
    ),
  ],
  testPoints: () => [
    ['bn', 'bu', 'supply at the sensor'],
    ['bk', 'bu', 'output to its minus'],
  ],
  kit: ['target of the machine’s own metal'],
  firstSign: () => 'its lamp follows the target, whether the input does or not',
  output: (s) => ({ switching: s.out, most_A: s.load_mA / 1000, leak_A: 1e-5, least_A: 0 }),
  supplyLabel: (s) => ({ min_V: s.min_V, max_V: s.max_V }),
})
