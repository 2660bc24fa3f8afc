/** Speed of sound in air, m/s. @see ISO 9613-1 */
export const airSoundSpeed_m_s = (t_C: number): number => 343.2 * Math.sqrt((t_C + 273.15) / 293.15)

/** What a wrong gas temperature does: hotter than set reads short, so too high. */
export function temperatureError(distance_m: number, set_C: number, true_C: number) {
  const indicated_m = (distance_m * airSoundSpeed_m_s(set_C)) / airSoundSpeed_m_s(true_C)
  return { indicated_m, levelError_m: distance_m - indicated_m }
}
