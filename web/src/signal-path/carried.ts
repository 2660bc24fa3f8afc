/** What was read at the stations of a loop: shown on its line instead of anything computed. */
export interface CarriedReadings {
  /** Read from the world, or from a stand-in. */
  readonly ink: 'measured' | 'simulated'
  /** The value in the unit it was read in, by the station's name on the line: the range may have another unit since. */
  readonly values: Readonly<Record<string, { readonly text: string; readonly unit: string }>>
  /** Where it comes from, in words: "as found, point 3" or "simulated device, 10:42:07". */
  readonly from: string
}
