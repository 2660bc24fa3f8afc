import { judgeMistakes } from './test/judge-mistakes.ts'

const ONE = { low_pH: 4, high_pH: 10, offset_mV: 0, slope_pct: 98, sample_C: 25, process_pH: 7.5 }
const mV = (pH: number, slope = 98, offset = 0, t = 25) =>
  offset - (slope / 100) * (0.198416 * (t + 273.15)) * (pH - 7)
const round = (x: number) => Number(x.toFixed(1))
/** An electrode in buffers, as a bottle of the table gives its pH at 25 °C. */
const TWO = {
  ...ONE, buffer1: 'T7.00', mV1: round(mV(7)), t1_C: 25, buffer2: 'T4.00', mV2: round(mV(4.005)), t2_C: 25,
} // prettier-ignore
const THREE = { ...TWO, buffer3: 'T10.00', mV3: round(mV(10.012)), t3_C: 25 }
const BASES = {
  one: { family: 'ph', values: { ...ONE, buffer1: 'T7.00', mV1: 1, t1_C: 25 } },
  two: { family: 'ph', values: TWO },
  three: { family: 'ph', values: THREE },
  life: { family: 'ph', values: { ...TWO, days: '0 60 120', slopes: '98.6 98.3 98.0' } },
}

judgeMistakes(BASES, [
  ['no span', 'two', { high_pH: 4 }, /no span/i],
  ['a range in percent', 'two', { high_pH: 100 }, /possible is/],
  ['a slope as a fraction', 'two', { slope_pct: 0.98 }, /possible is/],
  ['volts for millivolts of offset', 'two', { offset_mV: 2000 }, /possible is/],
  ['buffer 4 and 7 exchanged', 'two', { buffer1: 'T4.00', buffer2: 'T7.00' }, /not a reading of buffer|looks like/i],
  ['buffer 10 typed for 4', 'two', { buffer2: 'T10.00' }, /not a reading|looks like/i],
  ['the same buffer twice', 'two', { buffer2: 'T7.00', mV2: 1 }, /same buffer|repeat/i],
  ['the sign of the reading lost', 'two', { mV2: -174 }, /not a reading|looks like/i],
  ['the reading of the first typed twice', 'two', { mV2: 0 }, /not a reading|looks like/i],
  ['the probe not rinsed: halfway between two', 'two', { mV2: 96 }, /not a reading|rinsed|slope/i],
  ['a digit left out of the millivolts', 'two', { mV2: 17.3 }, /not a reading|looks like/i],
  ['a decimal point left out', 'two', { mV2: 999 }, /not a reading/i],
  ['a worn electrode', 'two', { mV2: round(mV(4.005, 80)) }, /Not accepted/i],
  ['an electrode near its end', 'two', { mV2: round(mV(4.005, 88)) }, /nearing/i],
  ['a poisoned reference: a large offset', 'two', { mV1: 38, mV2: round(mV(4.005, 98, 38)) }, /Not accepted|not a reading/i],
  ['an offset of some weeks', 'two', { mV1: 20, mV2: round(mV(4.005, 98, 20)) }, /nearing/i],
  ['too steep a slope: cable or amplifier', 'two', { mV2: round(mV(4.005, 108)) }, /Not accepted|not a reading/i],
  ['a buffer in °F', 'two', { t2_C: 77 }, /tabulated from/i],
  ['buffers far apart in temperature', 'two', { t2_C: 40, mV2: round(mV(4.03, 98, 0, 40)) }, /10 °C apart/i],
  ['a buffer colder than the table', 'two', { t2_C: -5 }, /tabulated from/i],
  ['buffers too near each other', 'two', { buffer2: 'T7.41', mV2: round(mV(7.413)) }, /closer than|possible|one of/i],
  ['a stale third buffer', 'three', { mV3: round(mV(10.012)) + 9 }, /suspect|line/i],
  ['the third buffer not rinsed', 'three', { mV3: -60 }, /not a reading|line/i],
  ['the second of three wrong', 'three', { buffer2: 'T10.00' }, /not a reading|looks like|same/i],
  ['three buffers, two of them alike', 'three', { buffer3: 'T4.00', mV3: round(mV(4.005)) }, /same buffer|repeat/i],
  ['contaminated bottle in the middle', 'three', { mV1: 12 }, /line|suspect/i],
  ['broken glass', 'two', { glass_Mohm: 4 }, /broken/i],
  ['a wet connector', 'two', { glass_Mohm: 0.5 }, /wet/i],
  ['dry glass', 'two', { glass_Mohm: 4000 }, /dry/i],
  ['a clogged reference', 'two', { reference_kohm: 120 }, /clogged/i],
  ['the old slope on a new sensor', 'two', { slope_pct: 86, process_pH: 9.5 }, /As found/i],
  ['the old offset on a new sensor', 'two', { offset_mV: -25 }, /As found/i],
  ['an old calibration that reads too high', 'two', { offset_mV: 24 }, /too (high|low)/i],
  ['days and slopes that do not match', 'life', { slopes: '98.6 98.3' }, /one belongs to each/i],
  ['days typed as words', 'life', { days: 'today' }, /not a number/i],
  ['a slope that falls fast', 'life', { slopes: '98.6 92 87' }, /falls by/i],
  ['a process temperature beyond water', 'two', { sample_C: 400 }, /possible is/],
  ['buffer values for millivolts', 'two', { mV1: 7, mV2: 4 }, /not a reading|looks like/i],
  ['one buffer, the wrong bottle', 'one', { buffer1: 'T4.00' }, /not a reading|looks like/i],
  ['one buffer, a reading of another', 'one', { mV1: 172 }, /not a reading|looks like/i],
  ['one buffer, far too hot', 'one', { t1_C: 70 }, /tabulated/i],
]) // prettier-ignore
