/** What stands on an instrument and its certificate, as it is asked for. */
export const INSTRUMENT_FIELDS = [
  { id: 'name', label: 'Instrument' },
  { id: 'serial', label: 'Serial number' },
  { id: 'range', label: 'Range (0 to 24 mA; 0 to 12 V)' },
  { id: 'uncertainty', label: 'Uncertainty, k = 2 (0.02 % of reading)' },
  { id: 'drift', label: 'Drift since the certificate (0.001 mA)' },
  { id: 'resolution', label: 'Smallest step shown (0.001 mA)' },
  { id: 'certificate', label: 'Certificate number' },
  { id: 'certifiedOn', label: 'Certified on (2026-11-23)' },
  { id: 'dueOn', label: 'Valid until (2027-11-23)' },
] as const
