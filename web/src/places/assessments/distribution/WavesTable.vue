<script setup lang="ts">
import { computed } from 'vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import WaveDays from './WaveDays.vue'
import { daysOf, local, shifted, shortDay, weekday, whoseWave, type Wave, type WaveShown } from './whom'

/** When: the waves on one timeline. A bar is dragged by its ends or moved by keys; its times are typed in its panel. */
const props = defineProps<{ waves: WaveShown[]; editable: boolean }>()
const emit = defineEmits<{ open: [at: number]; add: []; change: [at: number, wave: Wave] }>()
const days = computed(() => daysOf(props.waves))
const off = computed(() => new Set(props.waves.flatMap((w) => w.days.filter((d) => d.off).map((d) => d.date))))
/** Beyond four weeks a column has no room for its day: then only Mondays say theirs. */
const dense = computed(() => days.value.length > 24)
const expected = computed(() =>
  days.value.map((day) => props.waves.reduce((n, w) => n + (w.days.find((d) => d.date === day)?.expected ?? 0), 0)),
)
const nameOf = (w: WaveShown, i: number) => w.wave.name || (props.waves.length > 1 ? `Wave ${i + 1}` : 'The window')
const whose = (w: WaveShown) => whoseWave(w, props.waves.length > 1)
function move(i: number, end: 'opens' | 'closes', by: number) {
  const w = props.waves[i]!.wave
  const moved = { ...w, [end]: shifted(w[end], by) }
  if (moved.opens && moved.closes && moved.opens < moved.closes) emit('change', i, moved)
}
</script>

<template>
  <div class="across">
    <LedgerTable label="When">
      <thead>
        <tr>
          <th>Wave and schools</th>
          <th v-for="d in days" :key="d" class="day" :class="{ off: off.has(d) }">
            <template v-if="!dense || weekday(d) === 'Mon'"
              ><span class="of">{{ off.has(d) ? 'no school' : weekday(d) }}</span
              ><strong>{{ dense ? shortDay(d) : Number(d.slice(8)) }}</strong></template
            ><span v-else class="out-of-sight">{{ shortDay(d) }}</span>
          </th>
          <th v-if="!days.length">Dates</th>
          <th class="num double">Sections</th>
          <th class="num">Students</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(w, i) in waves" :key="i">
          <th scope="row" class="wave">
            <button v-if="editable" type="button" class="link-button" @click="emit('open', i)">{{ nameOf(w, i) }}</button>
            <strong v-else>{{ nameOf(w, i) }}</strong>
            <span class="soft hours">{{ w.hours }}</span>
            <span class="soft whose">{{ whose(w) }}</span>
          </th>
          <td v-if="!days.length">
            {{ w.wave.opens || w.wave.closes ? `${local(w.wave.opens)} to ${local(w.wave.closes)}` : 'not chosen yet' }}
          </td>
          <WaveDays
            v-else
            :wave="w"
            :name="nameOf(w, i)"
            :days="days"
            :off="off"
            :editable="editable"
            @move="(end, by) => move(i, end, by)"
          />
          <td class="num double">{{ w.sectionCount }}</td>
          <td class="num">{{ w.students }}</td>
        </tr>
      </tbody>
      <tfoot>
        <tr>
          <th scope="row">
            Students a day, expected
            <button v-if="editable" type="button" class="link-button add" @click="emit('add')">Add a wave</button>
          </th>
          <td v-for="(n, i) in expected" :key="i" class="day">{{ n || '–' }}</td>
          <td v-if="!days.length" />
          <td class="num double">{{ waves.reduce((n, w) => n + w.sectionCount, 0) }}</td>
          <td class="num">{{ waves.reduce((n, w) => n + w.students, 0) }}</td>
        </tr>
      </tfoot>
    </LedgerTable>
  </div>
</template>

<style scoped>
.across {
  overflow-x: auto;
}
.day {
  text-align: center !important;
  padding: 0 2px !important;
  min-width: 34px;
  border-left: 1px solid var(--rule);
  font-variant-numeric: tabular-nums;
}
thead .day {
  line-height: 1.15;
  padding: 4px 2px !important;
}
.of {
  display: block;
  font-weight: 500;
  white-space: normal;
}
thead .day.off,
:deep(td.off) {
  background: repeating-linear-gradient(135deg, transparent 0 4px, var(--rule) 4px 5px);
}
.wave {
  padding: 5px 8px !important;
  min-width: 190px;
  max-width: 260px;
}
.hours {
  margin-left: 6px;
}
.whose {
  display: block;
  font-size: 12px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.add {
  margin-left: 12px;
  font-weight: 400;
}
</style>
