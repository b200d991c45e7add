/** Which tree is nearest. Reckoned on the phone, so that where it is stays there. */
export interface At {
  latitude_deg: number
  longitude_deg: number
}

/** As the server has it: core/weather/place.py. */
const EARTH_M = 6_371_000
const RAD = Math.PI / 180

/** Metres between two places near each other, on a plane that touches the earth there. */
export function apart_m(a: At, b: At): number {
  const east = (b.longitude_deg - a.longitude_deg) * RAD * Math.cos(((a.latitude_deg + b.latitude_deg) / 2) * RAD)
  const north = (b.latitude_deg - a.latitude_deg) * RAD
  return EARTH_M * Math.hypot(east, north)
}

/** Those whose place is known, the nearest first, with how far each is. */
export function byDistance<T extends { latitude_deg: number | null; longitude_deg: number | null }>(at: At, all: T[]) {
  return all
    .flatMap((one) =>
      one.latitude_deg === null || one.longitude_deg === null
        ? []
        : [{ one, m: apart_m(at, { latitude_deg: one.latitude_deg, longitude_deg: one.longitude_deg }) }],
    )
    .sort((a, b) => a.m - b.m)
}
