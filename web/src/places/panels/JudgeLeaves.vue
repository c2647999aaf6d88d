<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import InputText from 'primevue/inputtext'
import { ref } from 'vue'

/** Why a judge leaves the panel. */
defineProps<{ name: string }>()
const emit = defineEmits<{ close: []; leave: [why: string] }>()
const why = ref('')
</script>

<template>
  <Dialog visible modal :header="`${name} leaves the panel`" :style="{ width: '460px' }" @update:visible="emit('close')">
    <form @submit.prevent="why.trim() && emit('leave', why)">
      <p>What they gave whole stays and counts. The report says that they left, and why.</p>
      <label>
        Why
        <InputText v-model="why" maxlength="500" autofocus />
      </label>
      <div class="foot">
        <Button label="Cancel" severity="secondary" outlined @click="emit('close')" />
        <Button type="submit" label="Leaves" :disabled="!why.trim()" />
      </div>
    </form>
  </Dialog>
</template>

<style scoped>
label {
  display: grid;
  gap: 4px;
  font-weight: 600;
}
.foot {
  display: flex;
  justify-content: flex-end;
  gap: 8px;
  margin-top: 14px;
}
</style>
