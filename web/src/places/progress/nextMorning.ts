/** The next weekday from 8 to 10, as fields of date and time hold it: where a makeup is first looked for. */
export function nextMorning(now: Date): [string, string] {
  const day = new Date(now)
  do day.setDate(day.getDate() + 1)
  while (day.getDay() === 0 || day.getDay() === 6)
  const two = (n: number) => String(n).padStart(2, '0')
  const date = `${day.getFullYear()}-${two(day.getMonth() + 1)}-${two(day.getDate())}`
  return [`${date}T08:00`, `${date}T10:00`]
}
