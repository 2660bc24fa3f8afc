/** Fittings between the packing and the pipe, from the face where the mark is read down to the wall; mm. */
export interface Stack {
  /** Compression fitting, from its face to its thread's end. */
  readonly fitting_mm: number
  /** Nipples and bushings between fitting and valve. */
  readonly above_mm: number
  readonly valve_mm: number
  readonly valveBore_mm: number
  /** Nipples between valve and stub. */
  readonly below_mm: number
  /** Weld stub, above the outside of the pipe. */
  readonly stub_mm: number
}
export const heightOf = (s: Stack): number => s.fitting_mm + s.above_mm + s.valve_mm + s.below_mm + s.stub_mm

/** Stem that has to stay in the packing while the probe is drawn back, mm; typical. */
const IN_PACKING_MM = 25
/** The tip stays this far above the valve before it is closed, mm; typical. */
const ABOVE_VALVE_MM = 5

/** Where the stem stands in the packing, as the mark at the fitting's face. */
export interface StemMarks {
  readonly inserted_mm: number
  /** Tip above the valve: now it may be closed. */
  readonly clear_mm: number
  /** How far the stem is drawn from *inserted* to *clear*. */
  readonly travel_mm: number
  /** Room between the widest part of the probe and the valve's bore. */
  readonly room_mm: number
  readonly problem: { readonly code: string; readonly where: string; readonly says: string } | null
}

/**
 * The marks of a probe in its stack.
 * @param inserted_mm - depth of the tip below the fitting's face when it is in
 * @param head_mm - the widest part that has to pass the valve
 */
export function stemMarks(stack: Stack, inserted_mm: number, head_mm: number): StemMarks {
  const clear_mm = stack.fitting_mm + stack.above_mm - ABOVE_VALVE_MM
  const room_mm = stack.valveBore_mm - head_mm
  return {
    inserted_mm,
    clear_mm,
    travel_mm: inserted_mm - clear_mm,
    room_mm,
    problem:
      room_mm <= 0
        ? {
            code: 'VALVE_TOO_NARROW',
            where: 'valveBore_mm',
            says: `The probe is ${head_mm} mm at its widest and the valve has a bore of ${stack.valveBore_mm} mm: it does not pass.`,
          }
        : clear_mm < IN_PACKING_MM
          ? {
              code: 'NO_ROOM_ABOVE_VALVE',
              where: 'above_mm',
              says: `Between packing and valve there are ${stack.fitting_mm + stack.above_mm} mm: drawn clear of the valve the stem would leave the packing. Put a longer nipple above the valve.`,
            }
          : null,
  }
}
