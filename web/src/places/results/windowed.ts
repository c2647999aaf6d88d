/** Which of many rows of one height to draw: those in view and some on either side. */
export function windowed(
  count: number,
  rowHeight: number,
  scrolled: number,
  height: number,
  beyond = 15,
): { from: number; to: number } {
  const from = Math.max(0, Math.min(count, Math.floor(scrolled / rowHeight) - beyond))
  const to = Math.min(count, Math.ceil((scrolled + Math.max(height, 600)) / rowHeight) + beyond)
  return { from, to: Math.max(from, to) }
}
