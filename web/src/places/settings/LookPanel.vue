<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import type { Schemas } from '@/contract/client'
import { plural } from '@/contract/format'

/** Which assessments a change for all would reach, what it changes in each, and which stay as they are. */
const props = defineProps<{ reached: Schemas['SettingsReach'][]; busy: boolean; error?: Error | null }>()
const emit = defineEmits<{ close: []; apply: [keep: number[]] }>()
const keep = ref<number[]>([])
const may = computed(() => props.reached.filter((r) => !r.why))
const changes = computed(() => may.value.filter((r) => !keep.value.includes(r.assessmentId)))
const toggle = (id: number) => (keep.value = keep.value.includes(id) ? keep.value.filter((k) => k !== id) : [...keep.value, id])
</script>

<template>
  <SidePanel title="What this would change" @close="emit('close')">
    <p>
      Clear the check mark of an assessment that is to stay as it is. It will then say so itself, where you can see it in its
      trail.
    </p>
    <LedgerTable label="Assessments that this reaches">
      <thead>
        <tr>
          <th>Assessment</th>
          <th>Now</th>
          <th>Then</th>
          <th class="num">Begun</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in reached" :key="r.assessmentId">
          <td>
            <label v-if="!r.why"
              ><input type="checkbox" :checked="!keep.includes(r.assessmentId)" @change="toggle(r.assessmentId)" />{{ r.title }}
              <small class="soft">{{ r.state }}{{ r.sections ? `, ${plural(r.sections, 'section')}` : '' }}</small></label
            >
            <template v-else>
              <strong>{{ r.title }}</strong> <small class="resin">stays as it is. {{ r.why }}</small>
            </template>
          </td>
          <td>
            <div v-for="c in r.changes" :key="c.name">{{ c.before }}</div>
          </td>
          <td>
            <div v-for="c in r.changes" :key="c.name">
              <s v-if="r.why || keep.includes(r.assessmentId)" class="soft">{{ c.after }}</s>
              <strong v-else>{{ c.after }}</strong>
            </div>
          </td>
          <td class="num">{{ r.begun || '' }}</td>
        </tr>
      </tbody>
    </LedgerTable>
    <Trouble :error="error ?? undefined" />
    <template #footer>
      <Button :label="`Save, and change ${plural(changes.length, 'assessment')}`" :loading="busy" @click="emit('apply', keep)" />
    </template>
  </SidePanel>
</template>

<style scoped>
input {
  margin: 0 8px 0 0;
  accent-color: var(--pine);
}
small {
  font-size: 12px;
}
</style>
