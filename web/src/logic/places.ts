/** The places of the program, and which one an address belongs to. */
export const PLACES = ['today', 'ahead', 'trees', 'sites', 'weather', 'rehearse', 'book'] as const
export type Place = (typeof PLACES)[number]

const BELOW: [Place, string[]][] = [
  ['today', ['/today']],
  ['ahead', ['/ahead']],
  ['trees', ['/trees', '/plants', '/walk']],
  ['sites', ['/sites', '/plantings', '/lines', '/copy', '/crews']],
  ['weather', ['/weather']],
  ['rehearse', ['/rehearse']],
  ['book', ['/book']],
]

/** null for what belongs to none: the phone's last page. */
export function placeOf(path: string): Place | null {
  return BELOW.find(([, paths]) => paths.some((p) => path === p || path.startsWith(`${p}/`)))?.[0] ?? null
}
