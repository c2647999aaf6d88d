<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import type { Schemas } from '@/contract/client'
import { tenths } from '@/contract/format'
import TwinCard from './TwinCard.vue'

/** Before an item is kept: what is nearly the same in the bank, side by side. */
defineProps<{ draft: Schemas['ItemDraft']; twins: Schemas['Twin'][] }>()
const emit = defineEmits<{ keep: []; join: [item: number]; drop: []; close: [] }>()
</script>

<template>
  <Dialog
    :visible="true"
    modal
    header="Nearly the same is in the bank already"
    :style="{ width: 'min(1060px, 94vw)' }"
    @update:visible="emit('close')"
  >
    <div v-for="t in twins" :key="t.item.id" class="pair">
      <TwinCard title="Yours" :shown="draft.shown" :keys="draft.keys" :name="`mine-${t.item.id}`" />
      <TwinCard
        :title="`${tenths(t.likeness)}% alike`"
        :shown="t.shown"
        :keys="t.keys"
        :name="`twin-${t.item.id}`"
        :item="t.item"
      >
        <Button
          v-if="t.mayJoin && !draft.itemId"
          label="Keep yours as its next version"
          size="small"
          severity="secondary"
          outlined
          @click="emit('join', t.item.id)"
        />
      </TwinCard>
    </div>
    <template #footer>
      <Button label="Continue writing" severity="secondary" text @click="emit('close')" />
      <Button label="Delete my draft" severity="secondary" outlined @click="emit('drop')" />
      <Button label="Keep both" @click="emit('keep')" />
    </template>
  </Dialog>
</template>

<style scoped>
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 24px;
  padding: 10px 0;
  border-top: 1px solid var(--rule);
}
@media (max-width: 860px) {
  .pair {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
