<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { ref, useTemplateRef } from 'vue'
import Empty from '@/parts/Empty.vue'
import Trouble from '@/parts/Trouble.vue'
import { plural } from '@/contract/format'
import { keepMedia } from '@/places/write/media'
import BankTabs from '../BankTabs.vue'
import ShelvedPanel from './ShelvedPanel.vue'
import ShelfGrid from './ShelfGrid.vue'
import { useShelf } from './useShelf'

/** Pictures and sounds, each once, for everyone who writes. */
const words = ref('')
const unused = ref(false)
const { shelf, files, settled } = useShelf(words, unused)
const open = ref<string>()
const input = useTemplateRef<HTMLInputElement>('input')

const put = useMutation({
  mutationFn: async (list: File[]) => {
    for (const f of list) await keepMedia(f)
  },
  onSettled: () => shelf.refetch(),
})
function chosen() {
  const list = [...(input.value?.files ?? [])]
  if (input.value) input.value.value = ''
  if (list.length) put.mutate(list)
}
</script>

<template>
  <div>
    <BankTabs>
      <Button label="Add files to the shelf" size="small" :loading="put.isPending.value" @click="input?.click()" />
      <input
        ref="input"
        type="file"
        multiple
        accept="image/*,audio/*"
        class="out-of-sight"
        tabindex="-1"
        aria-label="Files for the shelf"
        @change="chosen"
      />
    </BankTabs>
    <div class="page">
      <div class="row">
        <InputText v-model="words" data-search placeholder="Name or alternative text" aria-label="Name or alternative text" />
        <label class="line"><input v-model="unused" type="checkbox" /> shown nowhere</label>
        <span class="soft" aria-live="polite"
          >{{ plural(files.length, 'file') }}{{ shelf.hasNextPage.value ? ' and more' : '' }}</span
        >
      </div>
      <Trouble :error="put.error.value ?? shelf.error.value" />
      <Empty
        v-if="shelf.isSuccess.value && !files.length"
        :text="
          settled || unused
            ? 'Nothing on the shelf matches.'
            : 'The shelf is empty. A picture or sound is put here once and can be shown by any number of items. PNG, JPEG, GIF, SVG, MP3, WAV and OGG are taken; what a file says of its maker and place is left out.'
        "
      />
      <ShelfGrid :files="files" @choose="(f) => (open = f.hash)" />
      <Button
        v-if="shelf.hasNextPage.value"
        label="More"
        severity="secondary"
        outlined
        size="small"
        @click="shelf.fetchNextPage()"
      />
    </div>
    <ShelvedPanel v-if="open" :key="open" :hash="open" @close="open = undefined" @changed="shelf.refetch()" />
  </div>
</template>

<style scoped>
.page {
  padding: 0 18px 40px;
}
.row {
  gap: 14px;
  margin-bottom: 12px;
}
.row > :first-child {
  width: 320px;
}
.line {
  display: flex;
  gap: 7px;
  align-items: center;
}
.line input {
  accent-color: var(--pine);
  width: 15px;
  height: 15px;
}
</style>
