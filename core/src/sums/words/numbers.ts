import type { SumWords } from '../words.ts'

export const NUMBERS: Readonly<Record<string, SumWords>> = {
  'units.convert': {
    topic: 'Units and numbers',
    asks: { value: 'Value', from: 'From the unit', to: 'To the unit', p_baro: 'Barometric pressure | Pa' },
    gives: { value: 'Value', unit: 'Unit', exact: 'Exact by definition' },
  },
  'numbers.withUncertainty': {
    topic: 'Units and numbers',
    asks: { y: 'Result', U: 'Its uncertainty' },
    gives: { value: 'Result as it is written', uncertainty: 'Uncertainty as it is written' },
  },
  'signal.currentState': {
    topic: 'Signal and current',
    asks: { mA: 'Loop current | mA' },
    gives: { state: 'State', says: 'What to make of it' },
  },
  'signal.codeFormats': {
    topic: 'Signal and current',
    asks: { format: 'Codes of the card', mA: 'Loop current | mA' },
    gives: { CNT: 'Code', mAPerCount: 'One step | mA', n4: 'Code at 4 mA', n20: 'Code at 20 mA' },
  },
  'signal.resolution': {
    topic: 'Signal and current',
    asks: {
      n4: 'Code at 4 mA',
      n20: 'Code at 20 mA',
      span: 'Span, in its unit',
      sqrtAt: 'Square root is taken',
      q: 'Flow, as a share of full scale',
    },
    gives: { mA: 'One step | mA', PCT: 'One step | % of span', EU: 'One step, in the unit of the span' },
  },
  'signal.transfer': {
    topic: 'Signal and current',
    asks: {
      PV: 'Measured value',
      LRV: '4 mA point (LRV)',
      URV: '20 mA point (URV)',
      kind: 'Transfer function',
      cutoff: 'Low cutoff, as a share of the output',
      below: 'Under the cutoff',
    },
    gives: { x: 'Share of the range', y: 'Share of the output', mA: 'Loop current | mA' },
  },
  'signal.damping': {
    topic: 'Signal and current',
    asks: {
      tau: 'Damping | s',
      share: 'Allowed remainder of the step, as a share',
      filters: 'Filters in a row',
    },
    gives: { seconds: 'Wait | s' },
  },
  'uncertainty.budget': {
    topic: 'Uncertainty',
    asks: {
      lines: 'What contributes',
      'lines.name': 'What',
      'lines.value': '±',
      'lines.distribution': 'Shape',
      'lines.c': 'Counts',
      'lines.nu': 'Degrees of freedom',
      correlations: 'Lines that move together',
      'correlations.0': 'Line',
      'correlations.1': 'with line',
      'correlations.2': 'Correlation',
    },
    gives: {
      u: 'Standard uncertainty of each line',
      uc: 'Standard uncertainty, together',
      nuEff: 'Effective degrees of freedom',
      k: 'Coverage factor',
      U: 'Expanded uncertainty, ±',
    },
  },
  'uncertainty.monteCarlo': {
    topic: 'Uncertainty',
    asks: {
      y: 'Result without its contributions',
      lines: 'What contributes',
      'lines.name': 'What',
      'lines.value': '±',
      'lines.distribution': 'Shape',
      'lines.c': 'Counts',
      'lines.nu': 'Degrees of freedom',
      seed: 'Seed of the trials',
      ndig: 'Digits that have to hold',
    },
    gives: {
      y: 'Mean of the trials',
      u: 'Standard uncertainty',
      low: '95 % lie above',
      high: '95 % lie below',
      blocks: 'Blocks of 10 000 trials',
      delta: 'Digits held to ±',
      state: 'State',
      validated: 'The formula agrees',
    },
  },
  'uncertainty.coverage': {
    topic: 'Uncertainty',
    asks: { nu: 'Degrees of freedom; empty for very many' },
    gives: { k: 'Coverage factor for 95.45 %' },
  },
}
