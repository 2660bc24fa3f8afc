import type { SumWords } from '../words.ts'

const T = 'Temperature | °C'
const POINTS = { 'points.buffer': 'Buffer', 'points.mV': 'Reading | mV', 'points.t': 'Temperature | °C' }
export const TEMPERATURE_AND_PH: Readonly<Record<string, SumWords>> = {
  'temperature.rtd': {
    topic: 'Temperature',
    asks: { t: T, R: 'or resistance | Ω', R0: 'At 0 °C | Ω', class: 'Class' },
    gives: { t: T, R: 'Resistance | Ω', tolerance: 'Tolerance of its class, ± | °C' },
  },
  'temperature.leads': {
    topic: 'Temperature',
    asks: { t: T, wires: 'Wires', r1: 'First lead | Ω', r2: 'Second lead | Ω', R0: 'At 0 °C | Ω' },
    gives: { reads: 'It reads | °C', error: 'Wrong by | °C' },
  },
  'temperature.thermocouple': {
    topic: 'Temperature',
    asks: { type: 'Type', t: 'Hot end | °C', mV: 'or voltage | mV', t_cj: 'Cold junction | °C' },
    gives: {
      t: 'Hot end | °C',
      E: 'Voltage against 0 °C | mV',
      E_cj: 'Voltage of the cold junction | mV',
      tolerance1: 'Tolerance of class 1, ± | °C',
      tolerance2: 'Tolerance of class 2, ± | °C',
    },
  },
  'temperature.clampOn': {
    topic: 'Temperature',
    asks: {
      t_fluid: 'Fluid | °C',
      t_amb: 'Air around | °C',
      d_i: 'Bore | m',
      d_o: 'Outside diameter | m',
      k_w: 'Conductivity of the wall | W/(m K)',
      h_i: 'Heat transfer inside | W/(m² K)',
      s: 'Insulation | m',
      k_ins: 'Conductivity of the insulation | W/(m K)',
      h_o: 'Heat transfer outside | W/(m² K)',
    },
    gives: {
      Ri: 'Resistance to the fluid | m K/W',
      Ro: 'Resistance to the air | m K/W',
      surface: 'Surface of the pipe | °C',
      error: 'Error of the reading | °C',
    },
  },
  'temperature.immersion': {
    topic: 'Temperature',
    asks: {
      h: 'Heat transfer of the fluid | W/(m² K)',
      P: 'Perimeter of the well | m',
      k: 'Conductivity of the well | W/(m K)',
      A: 'Cross-section of the well | m²',
      l: 'Immersed | m',
      t_fluid: 'Fluid | °C',
      t_head: 'Head | °C',
    },
    gives: { share: 'Share of the head that reaches the tip', t_tip: 'Tip | °C' },
  },
  'ph.reading': {
    topic: 'pH',
    asks: {
      mV: 'Electrode | mV',
      pH: 'or pH',
      t: T,
      offset: 'Offset | mV',
      slope: 'Slope | %',
      pH_iso: 'Isothermal point | pH',
    },
    gives: { pH: 'pH', mV: 'Electrode | mV', k: 'Slope at this temperature | mV for 1 pH' },
  },
  'ph.buffer': {
    topic: 'pH',
    asks: { buffer: 'Buffer', t: T },
    gives: { pH: 'pH then', low: 'A good electrode reads from | mV', high: 'to | mV' },
  },
  'ph.recognise': {
    topic: 'pH',
    asks: { set: 'Buffers at hand', mV: 'Electrode | mV', t: T },
    gives: { state: 'State', candidates: 'It could be', nearest: 'Nearest' },
  },
  'ph.stability': {
    topic: 'pH',
    asks: {
      samples: 'Samples',
      'samples.0': 'Time | s',
      'samples.1': 'Electrode | mV',
      'samples.2': 'Temperature | °C',
      N: 'Samples to look at',
      s_E: 'Largest slope | mV/min',
      s_T: 'Largest slope | °C/min',
      pp: 'Largest swing | mV',
      t_min: 'Not before | s',
      t_max: 'Given up after | s',
    },
    gives: {
      state: 'State',
      at: 'Still at | s',
      dEdt: 'Slope | mV/min',
      dTdt: 'Slope | °C/min',
      mean: 'Mean | mV',
    },
  },
  'ph.calibrate': {
    topic: 'pH',
    asks: {
      points: 'Buffers that were read',
      ...POINTS,
      slope: 'Slope to keep with one buffer | %',
      mV: 'A reading to work out | mV',
      t: 'Its temperature | °C',
    },
    gives: {
      offset: 'Offset | mV',
      slope: 'Slope | %',
      state: 'The electrode is',
      residuals: 'Residual at each buffer | pH',
      max_residual: 'Largest residual | pH',
      warnings: 'To know',
      pH: 'pH of the reading',
      piecewise: 'pH between neighbours',
    },
  },
  'ph.life': {
    topic: 'pH',
    asks: { days: 'Days', slopes: 'Slope on each | %' },
    gives: { enough: 'Enough to say', rate: 'Slope lost | % a day', day: 'Worn out on day' },
  },
  'ph.impedance': {
    topic: 'pH',
    asks: { glass: 'Resistance of the glass | MΩ', reference: 'Resistance of the reference | kΩ', t: T },
    gives: { glass25: 'Glass at 25 °C | MΩ', glass: 'The glass is', reference: 'The reference is' },
    says: {
      good: 'good',
      broken: 'broken, or its connector is wet',
      look: 'worth a look',
      coated: 'dry or coated',
      clogged: 'clogged or dry',
    },
  },
}
