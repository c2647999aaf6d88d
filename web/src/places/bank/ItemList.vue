<script setup lang="ts">
import { IconBookmark, IconLock } from '@tabler/icons-vue'
import DifficultyBar from '@/parts/DifficultyBar.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import type { Schemas } from '@/contract/client'
import { gradeName, kindName } from '@/contract/format'
import Marked from './Marked.vue'

/** The found items: what each asks, where words were hit, and what lists say of it. */
defineProps<{
  items: Schemas['Item'][]
  chosen: number | undefined
  marked: Set<number>
  inTray: (id: number) => boolean
  mayPick: boolean
}>()
const emit = defineEmits<{ choose: [id: number]; open: [id: number]; mark: [id: number, range: boolean]; pick: [id: number] }>()

function holdText(h: Schemas['Hold']): string {
  return h.assessment ? `on hold for ${h.assessment}` : `on hold by ${h.person}`
}
</script>

<template>
  <LedgerTable label="Items" banded>
    <thead>
      <tr>
        <th><span class="out-of-sight">Marked</span></th>
        <th>Item</th>
        <th>Difficulty</th>
        <th class="num double">Forms</th>
        <th v-if="mayPick"><span class="out-of-sight">Tray</span></th>
      </tr>
    </thead>
    <tbody>
      <tr
        v-for="i in items"
        :key="i.id"
        :data-item="i.id"
        :tabindex="i.id === chosen ? 0 : -1"
        :aria-selected="i.id === chosen"
        @click="emit('choose', i.id)"
        @dblclick="emit('open', i.id)"
        @focus="emit('choose', i.id)"
      >
        <td class="box" @click.stop>
          <input
            type="checkbox"
            tabindex="-1"
            :checked="marked.has(i.id)"
            :aria-label="`Mark ${i.identifier}`"
            @click="(e) => emit('mark', i.id, e.shiftKey)"
          />
        </td>
        <td class="what">
          <span class="stem"
            ><Marked v-if="i.hit" :runs="i.hit.stem" /><template v-else>{{ i.stem }}</template></span
          >
          <span class="about">
            <span class="mono"
              >{{ i.standards[0] ?? 'aligned to nothing' }}{{ i.standards.length > 1 ? ` +${i.standards.length - 1}` : '' }}</span
            >
            <span>{{ kindName(i.kind) }}</span>
            <span v-if="i.grade">grade {{ gradeName(i.grade) }}</span>
            <span v-if="i.held" class="held" :title="holdText(i.held)"
              ><IconLock :size="13" aria-hidden="true" /> {{ holdText(i.held) }}</span
            >
            <span v-for="t in i.tags" :key="t.id" class="tag">{{ t.name }}</span>
            <span v-if="i.hit?.choices.length" class="hit">choices: <Marked :runs="i.hit.choices" /></span>
            <span v-if="i.hit?.passage.length" class="hit">passage: <Marked :runs="i.hit.passage" /></span>
          </span>
        </td>
        <td class="nowrap"><DifficultyBar :value="i.difficulty" /></td>
        <td class="num double">{{ i.uses }}</td>
        <td v-if="mayPick" class="box" @click.stop>
          <button
            type="button"
            tabindex="-1"
            class="pick"
            :class="{ in: inTray(i.id) }"
            :aria-pressed="inTray(i.id)"
            :aria-label="`${i.identifier} in the tray`"
            :title="inTray(i.id) ? 'Remove from the tray' : 'Add to the tray'"
            @click="emit('pick', i.id)"
          >
            <IconBookmark :size="18" stroke="1.5" :fill="inTray(i.id) ? 'currentColor' : 'none'" aria-hidden="true" />
          </button>
        </td>
      </tr>
    </tbody>
  </LedgerTable>
</template>

<style scoped>
.box {
  width: 30px;
}
input {
  width: 15px;
  height: 15px;
  accent-color: var(--pine);
}
td.what {
  max-width: 0;
  width: 100%;
  height: 46px;
}
.stem,
.about {
  display: block;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.about {
  font-size: 12px;
  color: var(--ink-soft);
}
.about > span {
  margin-right: 10px;
}
.tag {
  border-bottom: 1px solid var(--rule-strong);
}
.held {
  color: var(--resin);
}
.held svg {
  vertical-align: -2px;
}
.nowrap {
  white-space: nowrap;
}
.pick {
  display: grid;
  place-items: center;
  width: 26px;
  height: 26px;
  padding: 0;
  border: 0;
  background: none;
  color: var(--ink-soft);
  cursor: pointer;
}
.pick.in {
  color: var(--pine);
}
</style>
