import { element, term, type PartKind } from '../part-kind.ts'
import { flag, number } from '../../quantity/setting.ts'

/** An indicator that lives on the loop it shows. */
export const loopDisplay: PartKind = {
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
  label: (s) => `takes ${s.num('drop_V') + (s.flag('backlight') ? s.num('backlight_V') : 0)} V`,
  elements: (p) => [
    element(
      p,
      'indicator',
      { plus: 'plus', minus: 'minus' },
      {
        vDrop: p.s.num('drop_V'),
        backlight: p.s.flag('backlight'),
        vBacklight: p.s.num('backlight_V'),
      },
    ),
  ],
  testPoints: () => [['plus', 'minus', 'across the display']],
  firstSign: () => 'its figures appear as soon as 4 mA flow',
}
