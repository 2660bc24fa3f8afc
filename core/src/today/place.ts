import type { PlantAtWork } from './plant-at-work.ts'

/** Where work is done: in an area, on a floor of it. Ground is 0. */
export interface Place {
  readonly area: string
  readonly floor: number
}

/** A place as people say it; on the ground only the area. */
export function sayPlace({ area, floor }: Place): string {
  // A loop may lack an area still; it is somewhere all the same, and the day of everybody else is planned.
  const where = area.trim() === '' ? 'no area given' : area
  return floor === 0 ? where : `${where}, ${floor > 0 ? `floor ${floor}` : `${-floor} below ground`}`
}

/**
 * Minutes from place to place, both ways the same: between areas over the ground, within one by its stairs.
 * No way round over a third place is shorter by its stairs.
 */
export function waysOf(p: PlantAtWork, places: readonly Place[]): number[][] {
  const said = new Map(
    p.walk.flatMap((w) => [
      [`${w.a}\u0000${w.b}`, w.minutes] as const,
      [`${w.b}\u0000${w.a}`, w.minutes] as const,
    ]),
  )
  return places.map((a) =>
    places.map((b) =>
      a.area === b.area
        ? Math.abs(a.floor - b.floor) * p.floor_min
        : (said.get(`${a.area}\u0000${b.area}`) ?? p.usualWalk_min) +
          (Math.abs(a.floor) + Math.abs(b.floor)) * p.floor_min,
    ),
  )
}
