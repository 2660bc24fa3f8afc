import { element, term, type PartKind } from '../part-kind.ts'
import { choice, flag, number } from '../../quantity/setting.ts'

/** A proximity or magnet sensor with three or four wires. @see IEC 60947-5-2 */
export const proximityThreeWire: PartKind = {
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
    ...(s.flag('second') ? [term('wh', '2 WH', 'wh', 'right')] : []),
    term('bu', '3 BU', 'bu', 'right'),
  ],
  actuate: () => ({ on: 'target present', off: 'no target' }),
  label: (s) =>
    `${s.word('out') === 'pp' ? 'push-pull' : s.word('out').toUpperCase()} ${s.word('fn').toUpperCase()}, ${s.num('load_mA')} mA`,
  elements: (p) => [
    element(
      p,
      'sensor3',
      { bn: 'bn', bu: 'bu', bk: 'bk', ...(p.s.flag('second') && p.wired('wh') ? { wh: 'wh' } : {}) },
      {
        out: p.s.word('out'),
        fn: p.s.word('fn'),
        target: p.live.actuated,
        iMax: p.s.num('load_mA') / 1000,
        iSc: (p.s.num('load_mA') * 1.5) / 1000,
        vMin: p.s.num('min_V'),
        vMax: p.s.num('max_V'),
      },
    ),
  ],
  testPoints: () => [
    ['bn', 'bu', 'supply at the sensor'],
    ['bk', 'bu', 'output to its minus'],
  ],
  kit: ['target of the machine’s own metal'],
  firstSign: () => 'its lamp follows the target, whether the input does or not',
}
