<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import Textarea from 'primevue/textarea'
import { computed, ref, watch } from 'vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, queries } from '@/contract/client'
import { plural } from '@/contract/format'
import * as supportQueries from '@/queries/supports'

/** The district's own list of grounds on which supports are given, one a line. */
const emit = defineEmits<{ close: [] }>()
const query = useQuery({ ...supportQueries.district, staleTime: 0 })
const typed = ref('')
/** The list as it was looked at, so that nobody's change is lost. */
const was = ref<string[]>()
watch(
  query.data,
  (now) => {
    if (!now || was.value) return
    was.value = now.grounds.map((g) => g.name)
    typed.value = was.value.join('\n')
  },
  { immediate: true },
)
const inUse = computed(() => (query.data.value?.grounds ?? []).filter((g) => g.students > 0))
const save = useMutation({
  mutationFn: () => call(api.PUT('/supports/grounds', { body: { grounds: typed.value.split('\n'), was: was.value! } })),
  onSuccess: (now) => {
    queries.setQueryData(supportQueries.district.queryKey, now)
    void queries.invalidateQueries({ queryKey: ['profile'] })
    emit('close')
  },
})
</script>

<template>
  <SidePanel title="Grounds" @close="emit('close')">
    <p id="grounds-hint" class="soft">
      On what grounds students are given supports: one a line, in the order in which they are offered. Only coordinators see them.
    </p>
    <Textarea
      v-model="typed"
      rows="8"
      fluid
      :readonly="!query.data.value?.mayChange"
      aria-label="Grounds, one a line"
      aria-describedby="grounds-hint"
    />
    <ul v-if="inUse.length" class="soft">
      <li v-for="g in inUse" :key="g.name">{{ g.name }}: {{ plural(g.students, 'student') }}, so it stays on the list</li>
    </ul>
    <template v-if="query.data.value?.mayChange" #footer>
      <Trouble :error="save.error.value" />
      <Button label="Save" :loading="save.isPending.value" @click="save.mutate()" />
    </template>
  </SidePanel>
</template>
