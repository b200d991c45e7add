/** Numbers that were typed into plain fields, on their way to the program. */

/** Empty: nothing. What is no number goes as it was typed, so that the program names the field and nothing is lost. */
export function sent(typed: number | string | null | undefined): number | null {
  const text = String(typed ?? '')
    .trim()
    .replace(',', '.')
  if (text === '') return null
  const value = Number(text)
  return Number.isNaN(value) ? (text as unknown as number) : value
}

/** A share as a person reads it: 12 %. */
export const percent = (share: number) => `${Math.round(100 * share)}\u00a0%`
