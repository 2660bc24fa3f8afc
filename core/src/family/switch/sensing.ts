/**
 * The sensing distance of a proximity sensor: assured, perhaps and released, for a target's metal and size, in the unit of `sn`.
 * @see IEC 60947-5-2: Sr within 10 % of Sn, Su within 10 % of Sr, assured up to 0.81 Sn
 */
export function sensing(sn: number, d: number, kMat: number, kSize: number) {
  const s = sn * kMat * kSize
  return {
    sa: 0.81 * s,
    srMin: 0.9 * s,
    srMax: 1.1 * s,
    suMin: 0.81 * s,
    suMax: 1.21 * s,
    targetSide: Math.max(d, 3 * sn),
    hystMax: 0.2 * 1.1 * s,
  }
}

export interface Passing {
  readonly speed: number
  readonly targetLen: number
  readonly gapLen: number
  readonly fSensor: number
  readonly tFilter: number
  readonly tScan: number
}

/** Whether targets passing by are all seen: by the sensor, and by the input behind it. SI units. */
export function passing({ speed, targetLen, gapLen, fSensor, tFilter, tScan }: Passing) {
  const shorter = Math.min(targetLen, gapLen)
  const vMaxSensor = Math.min(fSensor * (targetLen + gapLen), 2 * fSensor * shorter)
  const vMaxInput = shorter / (tFilter + tScan)
  return {
    fNeeded: speed / (targetLen + gapLen),
    tOn: targetLen / speed,
    tOff: gapLen / speed,
    vMaxSensor,
    vMaxInput,
    ok: speed <= vMaxSensor && speed <= vMaxInput,
  }
}
