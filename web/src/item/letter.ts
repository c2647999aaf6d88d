/** The letter of the choice at a place: A … Z, AA, AB … */
export function letter(at: number): string {
  return at < 26 ? String.fromCharCode(65 + at) : letter(Math.floor(at / 26) - 1) + letter(at % 26)
}
