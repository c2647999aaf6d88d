/** Items that are dragged from a list onto the lines travel under this type. */
const type = 'application/x-pineledger-items'

export function carry(e: DragEvent, items: number[]) {
  e.dataTransfer?.setData(type, JSON.stringify(items))
  if (e.dataTransfer) e.dataTransfer.effectAllowed = 'copy'
}

/** Tells whether what is dragged over is items. */
export function carriesItems(e: DragEvent): boolean {
  return !!e.dataTransfer?.types.includes(type)
}

export function carried(e: DragEvent): number[] {
  const text = e.dataTransfer?.getData(type)
  return text ? (JSON.parse(text) as number[]) : []
}

/** Before which row something dropped at a height would stand: rows are their boxes, from the top. */
export function placeAt(rows: { top: number; height: number }[], y: number): number {
  const at = rows.findIndex((r) => y < r.top + r.height / 2)
  return at < 0 ? rows.length : at
}
