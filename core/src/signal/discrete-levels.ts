/** A 24 V input reads 0 up to this voltage, whatever its type. @see IEC 61131-2 */
export const ZERO_UP_TO_V = 5
/** It reads 1 from here on by its type. @see IEC 61131-2 */
export const ONE_FROM_V = { 1: 15, 2: 11, 3: 11 } as const
