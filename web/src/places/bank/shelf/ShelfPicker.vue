<script setup lang="ts">
import InputText from 'primevue/inputtext'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import type { Schemas } from '@/contract/client'
import ShelfGrid from './ShelfGrid.vue'
import { useShelf } from './useShelf'

/** A file that is on the shelf already, for the item that is being written. */
const props = defineProps<{ pictures?: boolean }>()
const emit = defineEmits<{ choose: [file: Schemas['Shelved']]; close: [] }>()
const words = ref('')
const { shelf, files } = useShelf(words, ref(false))
const shown = computed(() => (props.pictures ? files.value.filter((f) => f.type.startsWith('image/')) : files.value))
</script>

<template>
  <SidePanel title="From the media shelf" @close="emit('close')">
    <InputText v-model="words" placeholder="Name or alternative text" aria-label="Name or alternative text" fluid class="find" />
    <Trouble :error="shelf.error.value" />
    <p v-if="shelf.isSuccess.value && !shown.length" class="soft">Nothing on the shelf has that name.</p>
    <ShelfGrid :files="shown" @choose="(f) => emit('choose', f)" />
    <Button
      v-if="shelf.hasNextPage.value"
      label="More"
      severity="secondary"
      outlined
      size="small"
      @click="shelf.fetchNextPage()"
    />
  </SidePanel>
</template>

<style scoped>
.find {
  margin-bottom: 12px;
}
</style>
