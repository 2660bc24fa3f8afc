import type { SumWords } from '../words.ts'

const CABLE = {
  length: 'Length, one way | m',
  mm2: 'Cross-section | mm²',
  awg: 'Gauge | AWG',
  ohmPerKm: 'Resistance of a core | Ω/km',
  iecClass: 'Conductor class',
  tempC: 'Hottest temperature | °C',
}
const under = (name: string, words: Readonly<Record<string, string>>) =>
  Object.fromEntries(Object.entries(words).map(([key, title]) => [`${name}.${key}`, title]))

export const ELECTRICAL: Readonly<Record<string, SumWords>> = {
  'electrical.loopBudget': {
    topic: 'Wiring',
    asks: {
      supplyMin: 'Supply, lowest | V',
      supplyMax: 'Supply, highest | V',
      vLift: 'Lift-off voltage | V',
      vDrops: 'Lost in barriers and diodes | V',
      rFixed: 'Resistance besides the cable | Ω',
      cable: 'Cable',
      ...under('cable', CABLE),
      currents: 'Currents to look at | A',
      iDesign: 'Largest current | A',
      rHart: 'Least resistance for the digital link | Ω',
    },
    gives: {
      rCable: 'Cable, both cores | Ω',
      rTotal: 'Resistance of the loop | Ω',
      'rows.i': 'At | A',
      'rows.vTerm': 'left at the transmitter | V',
      'rows.margin': 'above lift-off | V',
      'rows.rMax': 'largest resistance | Ω',
      'rows.lMax': 'longest cable | m',
      marginDesign: 'Voltage left at the largest current | V',
      vTermMax: 'Highest voltage at the transmitter | V',
      iSaturation: 'Highest current the loop can carry | A',
      hart: 'Room for the digital link',
      verdict: 'The supply is',
    },
    says: {
      PASS: 'enough',
      MARGINAL: 'just enough',
      FAIL: 'not enough',
      OK: 'enough',
      TIGHT: 'tight',
      NONE: 'none',
    },
  },
  'electrical.hartCable': {
    topic: 'Wiring',
    asks: {
      rLoop: 'Resistance of the loop | Ω',
      pFperM: 'Capacitance of the cable | pF/m',
      pFdevices: 'Capacitance of the devices | pF',
    },
    gives: { length: 'Longest cable | m' },
  },
  'electrical.shuntError': {
    topic: 'Wiring',
    asks: {
      i: 'Loop current | A',
      r: 'Actual shunt | Ω',
      rNominal: 'Nominal shunt | Ω',
      tolPct: 'Tolerance of the shunt | %',
    },
    gives: {
      v: 'Across the shunt | V',
      iShown: 'Indicated current | A',
      percent: 'Indicated | % of range',
      errPctSpan: 'Error | % of span',
    },
  },
  'electrical.pullSizing': {
    topic: 'Wiring',
    asks: {
      vMin: 'Supply, lowest | V',
      vMax: 'Supply, highest | V',
      iecType: 'Type of the input',
      r: 'Resistor, if fitted | Ω',
      iMax: 'Largest input current | A',
      UH: 'Input is on from | V',
      IH: 'at | A',
      vDrop: 'Lost in the sensor | V',
      rOn: 'Resistance of the sensor when on | Ω',
      iLeak: 'Leakage of the sensor | A',
      iOutMax: 'Largest current the sensor switches | A',
      derate: 'Share of the rated power to use',
    },
    gives: {
      rMax: 'Largest resistor | Ω',
      rMin: 'Smallest resistor | Ω',
      r: 'Resistor to use | Ω',
      iOn: 'Through the sensor | A',
      pR: 'Power in the resistor | W',
      vInReleased: 'At the input, released | V',
      iInReleased: 'Into the input, released | A',
    },
  },
  'electrical.sensing': {
    topic: 'Wiring',
    asks: {
      sn: 'Rated distance | mm',
      d: 'Diameter of the face | mm',
      kMat: 'Factor of the metal',
      kSize: 'Factor of the size',
    },
    gives: {
      sa: 'Assured distance | mm',
      srMin: 'Real distance, least | mm',
      srMax: 'Real distance, most | mm',
      suMin: 'Usable distance, least | mm',
      suMax: 'Usable distance, most | mm',
      targetSide: 'Side of the target | mm',
      hystMax: 'Largest difference between on and off | mm',
    },
  },
  'electrical.passing': {
    topic: 'Wiring',
    asks: {
      speed: 'Speed | m/s',
      targetLen: 'Length of a target | m',
      gapLen: 'Gap between targets | m',
      fSensor: 'Switching frequency of the sensor | Hz',
      tFilter: 'Filter of the input | s',
      tScan: 'Scan of the controller | s',
    },
    gives: {
      fNeeded: 'Targets | Hz',
      tOn: 'On for | s',
      tOff: 'Off for | s',
      vMaxSensor: 'Fastest for the sensor | m/s',
      vMaxInput: 'Fastest for the input | m/s',
      ok: 'Every target is counted',
    },
  },
  'electrical.wireOhm': {
    topic: 'Wiring',
    asks: CABLE,
    gives: { ohmPerKm: 'One core | Ω/km', r: 'One core | Ω', rLoop: 'Both cores | Ω' },
  },
}
