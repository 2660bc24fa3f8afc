import { z } from 'zod'

/** Floor of an area on which a loop's device is; ground is 0, below it is negative. */
export const FloorSchema = z
  .int('A whole floor; ground is 0.')
  .min(-20, 'At most 20 floors below ground.')
  .max(200, 'At most 200 floors up.')
