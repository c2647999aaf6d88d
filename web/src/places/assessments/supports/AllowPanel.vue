<script setup lang="ts">
import Button from 'primevue/button'
import Textarea from 'primevue/textarea'
import { ref } from 'vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { plural, runs } from '@/contract/format'
import type { Gap } from './matrix'

/** A support that breaks what is measured is allowed with a reason. */
defineProps<{ gap: Gap; busy: boolean; error?: Error | null }>()
const emit = defineEmits<{ close: []; allow: [reason: string] }>()
const reason = ref('')
</script>

<template>
  <SidePanel :title="gap.title" @close="emit('close')">
    <p>
      {{ gap.detail }} It concerns {{ plural(gap.students, 'student')
      }}<template v-if="gap.lines.length"> and {{ gap.lines.length === 1 ? 'line' : 'lines' }} {{ runs(gap.lines) }}</template
      >.
    </p>
    <p>
      Where you allow it, the support is given, and each result is marked <em>not comparable</em>: it is in no summary and in no
      statistic of items.
    </p>
    <form @submit.prevent="emit('allow', reason)">
      <label for="allow-reason">Why</label>
      <Textarea id="allow-reason" v-model="reason" rows="3" fluid maxlength="500" />
      <Trouble :error="error ?? undefined" />
      <Button type="submit" label="Allow it" :loading="busy" />
    </form>
  </SidePanel>
</template>

<style scoped>
label {
  display: block;
  font-weight: 600;
}
button {
  margin-top: 10px;
}
</style>
