import { unless, when } from '../../quantity/condition.ts'
import { element, term, definePart } from '../part-kind.ts'
import { choice, number } from '../../quantity/setting.ts'

const reed = (s: { readonly build: string }) => s.build === 'reed'

/** Feels the magnet in a cylinder's piston: a reed with its lamp, or an electronic one with three wires. */
export const cylinderSwitch = definePart({
  kind: 'cylinder-switch',
  title: 'Cylinder switch',
  place: 'field',
  duty: 'sensor',
  prefix: 'ZS',
  settings: [
    choice('build', 'Build', 'pnp', {
      reed: 'reed, 2-wire with lamp',
      pnp: 'electronic PNP',
      npn: 'electronic NPN',
    }),
    choice('fn', 'Function', 'no', { no: 'NO, conducts at the magnet', nc: 'NC, conducts without it' }),
    number('load_mA', 'Output carries', 'mA', 100, 1, 1000),
    number('drop_V', 'Drop of its lamp', 'V', 2.6, 0, 6, when('build', 'reed')),
    number('min_V', 'Lowest supply', 'V', 10, 4, 36, unless('build', 'reed')),
    number('max_V', 'Highest supply', 'V', 30, 5, 60, unless('build', 'reed')),
  ],
  terminals: (s) =>
    reed(s)
      ? [term('plus', 'BN +', 'bn', 'right'), term('minus', 'BU −', 'bu', 'right')]
      : [
          term('bn', '1 BN', 'bn', 'right'),
          term('bk', '4 BK', 'bk', 'right'),
          term('bu', '3 BU', 'bu', 'right'),
        ],
  actuate: () => ({ on: 'magnet at the switch', off: 'piston away' }),
  label: (s) =>
    reed(s)
      ? `reed ${s.fn.toUpperCase()}, drops ${s.drop_V} V, ${s.load_mA} mA`
      : `${s.build.toUpperCase()} ${s.fn.toUpperCase()}, ${s.load_mA} mA`,
  elements: (p) => [
    reed(p.s)
      ? element(
          p,
          'reed',
          { a: 'plus', b: 'minus' },
          {
            closed: p.live.actuated === (p.s.fn === 'no'),
            vDrop: p.s.drop_V,
            r: 20,
          },
        )
      : element(
          p,
          'sensor3',
          { bn: 'bn', bu: 'bu', bk: 'bk' },
          {
            out: p.s.build,
            fn: p.s.fn,
            target: p.live.actuated,
            iMax: p.s.load_mA / 1000,
            iSc: (p.s.load_mA * 1.5) / 1000,
            vMin: p.s.min_V,
            vMax: p.s.max_V,
          },
        ),
  ],
  testPoints: (s) =>
    reed(s)
      ? [['plus', 'minus', 'across the switch']]
      : [
          ['bn', 'bu', 'supply at the switch'],
          ['bk', 'bu', 'output to its minus'],
        ],
  caution: () => 'A cylinder moves without warning. Vent and lock the air before a hand goes in.',
  firstSign: () => 'its lamp lights at the end of stroke',
  output: (s) => ({
    switching: s.build === 'reed' ? 'contact' : s.build,
    most_A: s.load_mA / 1000,
    leak_A: 0,
    least_A: 0,
  }),
  supplyLabel: (s) => (reed(s) ? null : { min_V: s.min_V, max_V: s.max_V }),
})
