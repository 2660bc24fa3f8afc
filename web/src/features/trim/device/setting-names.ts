/** Settings of a device by the names they have on screen; the lines of a sheet have their own. */
const NAMES: Readonly<Record<string, string>> = {
  LRV: '4 mA point',
  URV: '20 mA point',
  damping_s: 'Damping, s',
  alarm: 'Alarm direction',
  descriptor: 'Descriptor',
  address: 'Address on the link',
  characterization: 'Characterization of the sensor',
  sensorTrim: 'Sensor trim, slope and offset',
  outputTrim: 'Output trim, slope and 4 mA',
}
export const nameOfSetting = (key: string): string => NAMES[key] ?? key
