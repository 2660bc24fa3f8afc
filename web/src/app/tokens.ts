/** The product's colours. Nothing else holds one; components name them. */
export interface Colours {
  readonly paper: string
  readonly surface: string
  readonly ink: string
  readonly quiet: string
  readonly hairline: string
  readonly accent: string
  readonly onAccent: string
  readonly copper: string
  /** From a stand-in: never in copper. */
  readonly simulated: string
  readonly good: string
  readonly look: string
  readonly lookSurface: string
  readonly stop: string
  readonly stopSurface: string
}

export const LIGHT: Colours = {
  paper: '#F5F3EC',
  surface: '#FDFCF8',
  ink: '#1D292B',
  quiet: '#56666A',
  hairline: '#D9D4C7',
  accent: '#0E5A5C',
  onAccent: '#FDFCF8',
  copper: '#9A4A1F',
  simulated: '#3F5A7A',
  good: '#2B6540',
  look: '#7F5200',
  lookSurface: '#FBEFD0',
  stop: '#94281F',
  stopSurface: '#FBE3DE',
}

export const DARK: Colours = {
  paper: '#14191A',
  surface: '#1C2324',
  ink: '#E9E6DC',
  quiet: '#A3ADA9',
  hairline: '#344041',
  accent: '#6FC3BE',
  onAccent: '#14191A',
  copper: '#E0996B',
  simulated: '#9DB7D6',
  good: '#83C79A',
  look: '#E6BE6A',
  lookSurface: '#2E2817',
  stop: '#F0938A',
  stopSurface: '#35201E',
}

/** For sun and gloves: black on white, every pair at least 7 : 1. */
export const FIELD: Colours = {
  paper: '#FFFFFF',
  surface: '#FFFFFF',
  ink: '#000000',
  quiet: '#222222',
  hairline: '#000000',
  accent: '#00393B',
  onAccent: '#FFFFFF',
  copper: '#6B2A00',
  simulated: '#1B2F47',
  good: '#003D18',
  look: '#4A2F00',
  lookSurface: '#FFF3D6',
  stop: '#6B0E07',
  stopSurface: '#FFE9E5',
}

export const THEME_NAMES = ['light', 'dark', 'field'] as const
export type ThemeName = (typeof THEME_NAMES)[number]
