<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import Trouble from '@/parts/Trouble.vue'
import { plural } from '@/contract/format'
import { useOpenSheet } from './open'

/** An assessment put away and brought back; a draft that was never sealed can be deleted. */
const { sheet, shelve, remove } = useOpenSheet()
const deleting = ref(false)
const unused = computed(() => sheet.value.state === 'draft' && sheet.value.edition === 1)
const router = useRouter()
const go = useMutation({ mutationFn: remove, onSuccess: () => router.push('/assessments') })
</script>

<template>
  <button v-if="sheet.state === 'shelved'" type="button" class="link-button" @click="shelve(false)">Bring it back</button>
  <button v-else-if="sheet.state !== 'out'" type="button" class="link-button" @click="shelve(true)">Shelve it</button>
  <button v-if="unused" type="button" class="link-button" @click="deleting = true">Delete draft</button>
  <Dialog
    v-if="deleting"
    :visible="true"
    modal
    header="Delete this draft"
    :style="{ width: '460px' }"
    @update:visible="deleting = false"
  >
    <p>
      <strong>{{ sheet.outline.title }}</strong> with {{ plural(sheet.lines.length, 'line') }} is deleted for everybody. Items
      stay in their banks. To keep it out of sight, shelve it instead.
    </p>
    <Trouble :error="go.error.value" />
    <template #footer>
      <Button label="Cancel" severity="secondary" text autofocus @click="deleting = false" />
      <Button label="Delete draft" severity="danger" :loading="go.isPending.value" @click="go.mutate()" />
    </template>
  </Dialog>
</template>
