import { element, term, definePart } from '../part-kind.ts'
import { flag, number } from '../../quantity/setting.ts'

/** An indicator that lives on the loop it shows. */
export const loopDisplay = definePart({
  kind: 'loop-display',
  title: 'Loop display',
  place: 'cabinet',
  duty: 'inLoop',
  prefix: 'LI',
  settings: [
    number('drop_V', 'Takes', 'V', 1.5, 0.1, 6),
    flag('backlight', 'Backlight on', false),
    number('backlight_V', 'Backlight takes', 'V', 1, 0, 5),
  ],
  terminals: () => [term('plus', '+', 'loop+', 'left'), term('minus', '−', 'loop-', 'right')],
  label: (s) => `takes ${s.drop_V + (s.backlight ? s.backlight_V : 0)} V`,
  elements: (p) => [
    element(
      p,
      'indicator',
      { plus: 'plus', minus: 'minus' },
      {
        vDrop: p.s.drop_V,
        backlight: p.s.backlight,
        vBacklight: p.s.backlight_V,
      },
    ),
  ],
  testPoints: () => [['plus', 'minus', 'across the display']],
  firstSign: () => 'its figures appear as soon as 4 mA flow',
  loopLoad: (s, lit) => ({ volts: s.drop_V + (lit || s.backlight ? s.backlight_V : 0), ohm: 5 }),
})
