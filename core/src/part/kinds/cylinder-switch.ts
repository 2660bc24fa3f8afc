import { when } from '../../quantity/condition.ts'
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
    number('drop_V', 'Drop of its lamp', 'V', 2.6, 0, 6, when('build', 'reed')),
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
  label: (s) => (reed(s) ? `reed, drops ${s.drop_V} V` : `${s.build.toUpperCase()} NO, 100 mA`),
  elements: (p) => [
    reed(p.s)
      ? element(
          p,
          'reed',
          { a: 'plus', b: 'minus' },
          {
            closed: p.live.actuated,
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
            target: p.live.actuated,
            iMax: 0.1,
            iSc: 0.15,
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
  // A reed with its lamp and an electronic one both carry about 0.1 A, typical.
  output: (s) => ({
    switching: s.build === 'reed' ? 'contact' : s.build,
    most_A: 0.1,
    leak_A: 0,
    least_A: 0,
  }),
})
