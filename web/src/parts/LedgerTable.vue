<script setup lang="ts">
/** The ruled table. Rows that open carry tabindex (0 on the first or chosen one, -1 on others); arrows move, Enter clicks. */
defineProps<{ label: string; banded?: boolean }>()

function rowsOf(table: EventTarget | null): HTMLElement[] {
  return table instanceof HTMLElement ? [...table.querySelectorAll<HTMLElement>('tbody tr[tabindex]')] : []
}

function onKey(e: KeyboardEvent) {
  const row = e.target
  if (!(row instanceof HTMLElement) || row.tagName !== 'TR' || e.altKey || e.ctrlKey || e.metaKey) return
  const rows = rowsOf(e.currentTarget)
  const at = rows.indexOf(row)
  const to = { ArrowDown: at + 1, ArrowUp: at - 1, Home: 0, End: rows.length - 1, PageDown: at + 12, PageUp: at - 12 }[e.key]
  if (to !== undefined) {
    const next = rows[Math.max(0, Math.min(rows.length - 1, to))]
    next?.focus()
    next?.scrollIntoView({ block: 'nearest' })
    e.preventDefault()
  } else if (e.key === 'Enter') {
    row.click()
    e.preventDefault()
  }
}
</script>

<template>
  <table class="ledger" :class="{ banded }" :aria-label="label" @keydown="onKey">
    <slot />
  </table>
</template>
