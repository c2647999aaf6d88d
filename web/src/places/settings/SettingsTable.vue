<script setup lang="ts">
import { IconChevronDown, IconChevronRight, IconLock } from '@tabler/icons-vue'
import { computed, ref } from 'vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import { plural } from '@/contract/format'
import { differing, grouped, levelName, means, type Setting, type Settings } from './settings'

/** Every setting with its value in words and where it comes from; the ones asked about most first, the rest on asking. */
const props = defineProps<{
  view: Settings
  words: string
  onlyDiffering: boolean
  chosen?: string
  beside?: { title: string; view: Settings }
}>()
const emit = defineEmits<{ open: [key: string] }>()

const opened = ref<string[]>([])
const narrowed = computed(() => props.onlyDiffering || props.words.trim() !== '')
const fits = (s: Setting) => (!props.onlyDiffering || differs(s)) && (!props.words.trim() || means(s, props.words.trim()))
const other = (s: Setting) => props.beside?.view.settings.find((o) => o.key === s.key)
const differs = (s: Setting) => (props.beside ? other(s)?.words !== s.words : s.differs)
const groups = computed(() =>
  grouped(props.view.settings)
    .map((g) => ({ ...g, all: g.settings, settings: g.settings.filter(fits) }))
    .filter((g) => !narrowed.value || g.settings.length),
)
const isOpen = (name: string, common: boolean) => common || narrowed.value || opened.value.includes(name)
const toggle = (name: string) =>
  (opened.value = opened.value.includes(name) ? opened.value.filter((n) => n !== name) : [...opened.value, name])
const first = computed(() => groups.value.find((g) => isOpen(g.name, g.common))?.settings[0]?.key)
const summary = (all: Setting[]) =>
  all
    .filter((s) => s.from)
    .map((s) => `${s.name}: ${s.words}`)
    .slice(0, 3)
    .join('; ')
</script>

<template>
  <LedgerTable label="Settings">
    <thead>
      <tr>
        <th class="mark"><span class="out-of-sight">Differs</span></th>
        <th>Setting</th>
        <th>Value, in words</th>
        <template v-if="beside"
          ><th class="double">{{ beside.title }}</th></template
        >
        <template v-else>
          <th class="double">Comes from</th>
          <th>Locked by</th>
        </template>
      </tr>
    </thead>
    <tbody v-for="g in groups" :key="g.name">
      <tr class="group">
        <th :colspan="beside ? 4 : 5" scope="rowgroup">
          <template v-if="g.common || narrowed">{{ g.name }}</template>
          <button v-else type="button" :aria-expanded="isOpen(g.name, g.common)" @click="toggle(g.name)">
            <component :is="isOpen(g.name, g.common) ? IconChevronDown : IconChevronRight" :size="16" aria-hidden="true" />
            <strong>{{ g.name }}</strong> <span class="soft">{{ plural(g.all.length, 'setting') }}</span>
            <span v-if="g.all.some(differs)" class="resin">{{ differing(g.all.filter(differs).length) }}</span>
            <span v-if="!isOpen(g.name, g.common)" class="soft summary">{{ summary(g.all) }}</span>
          </button>
        </th>
      </tr>
      <template v-if="isOpen(g.name, g.common)">
        <tr
          v-for="s in g.settings"
          :key="s.key"
          :tabindex="s.key === (chosen ?? first) ? 0 : -1"
          :aria-selected="s.key === chosen"
          @click="emit('open', s.key)"
        >
          <td class="mark">
            <span v-if="differs(s)" class="resin" role="img" :aria-label="beside ? 'differs' : 'differs from the usual'">≠</span>
          </td>
          <td>
            <strong>{{ s.name }}</strong>
          </td>
          <td>
            <s v-if="s.differs && !beside" class="soft">{{ s.usualWords }}</s>
            <component :is="differs(s) ? 'strong' : 'span'">{{ s.words }}</component>
          </td>
          <template v-if="beside">
            <td class="double">
              <component :is="differs(s) ? 'strong' : 'span'">{{ other(s)?.words }}</component>
            </td>
          </template>
          <template v-else>
            <td class="double">{{ s.from ? levelName(s.from, view) : 'not set' }}</td>
            <td>
              <template v-if="s.lockedAt"
                ><IconLock :size="14" stroke="1.8" aria-hidden="true" /> {{ s.lockedBy || levelName(s.lockedAt, view) }}</template
              >
            </td>
          </template>
        </tr>
      </template>
    </tbody>
    <tfoot>
      <tr>
        <td class="mark" />
        <td>
          <strong>{{ plural(view.settings.length, 'setting') }}</strong>
        </td>
        <td>
          <strong v-if="view.place.assessment" :class="{ resin: view.settings.some(differs) }">{{
            differing(view.settings.filter(differs).length)
          }}</strong>
        </td>
        <td class="double" :colspan="beside ? 1 : 2">
          <template v-if="!beside"
            >{{ view.settings.filter((s) => s.from).length }} set,
            {{ view.settings.filter((s) => s.lockedAt).length }} locked</template
          >
        </td>
      </tr>
    </tfoot>
  </LedgerTable>
</template>

<style scoped>
.mark {
  width: 26px;
  text-align: center;
}
.group th {
  background: var(--tint);
  text-align: left;
  font-weight: 650;
}
.group button {
  display: flex;
  align-items: center;
  gap: 8px;
  width: 100%;
  min-height: 28px;
  border: 0;
  padding: 0;
  background: none;
  color: inherit;
  font: inherit;
  cursor: pointer;
  text-align: left;
}
.group span {
  font-weight: 400;
}
.summary {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  min-width: 0;
}
s {
  margin-right: 6px;
}
svg {
  vertical-align: -2px;
}
</style>
