<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { computed } from 'vue'
import Trouble from '@/parts/Trouble.vue'
import { plural } from '@/contract/format'
import { useOpenSheet } from '@/places/assessments/sheet/open'

const emit = defineEmits<{ close: [] }>()
const { sheet, error, seal } = useOpenSheet()
const odd = computed(() => sheet.value.lines.flatMap((l, i) => l.cautions.map((c) => `Line ${i + 1}: ${c}`)))
const go = useMutation({ mutationFn: seal, onSuccess: (sealed) => sealed && emit('close') })
</script>

<template>
  <Dialog :visible="true" modal header="Seal this edition" :style="{ width: '480px' }" @update:visible="emit('close')">
    <p>
      Sealing freezes <strong>{{ plural(sheet.lines.length, 'line') }}</strong> worth <strong>{{ sheet.total }} points</strong>,
      their versions and keys <template v-if="sheet.bandSet">and the cuts of {{ sheet.bandSet.name }}</template> under a
      fingerprint. What is sealed can be sent. A change after that makes a new edition.
    </p>
    <div v-if="sheet.faults.length">
      <strong class="brick">First mend:</strong>
      <ul>
        <li v-for="f in sheet.faults" :key="f">{{ f }}</li>
      </ul>
    </div>
    <div v-if="odd.length">
      <strong class="resin">Look again:</strong>
      <ul>
        <li v-for="o in odd" :key="o">{{ o }}</li>
      </ul>
    </div>
    <p v-if="sheet.shortage || sheet.excess" class="resin">
      It does not balance: short {{ sheet.shortage }}, over {{ sheet.excess }}.
    </p>
    <p v-if="!sheet.bandSet" class="resin">No band set is chosen, so results will show points and no bands.</p>
    <Trouble :error="error" />
    <template #footer>
      <Button label="Not yet" severity="secondary" text autofocus @click="emit('close')" />
      <Button
        :label="`Seal edition ${sheet.edition}`"
        :disabled="sheet.faults.length > 0"
        :loading="go.isPending.value"
        @click="go.mutate()"
      />
    </template>
  </Dialog>
</template>
