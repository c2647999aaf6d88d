<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { RouterLink } from 'vue-router'
import Trouble from '@/parts/Trouble.vue'
import { api, call } from '@/contract/client'
import { plural } from '@/contract/format'

/** Which assessments use a set, and which of them stand on an older version. */
const props = defineProps<{ id: number; uses: number; version: number }>()
const open = ref(false)
const query = useQuery({
  queryKey: ['band-set-uses', computed(() => props.id), computed(() => props.version)],
  queryFn: () => call(api.GET('/band-sets/{id}/uses', { params: { path: { id: props.id } } })),
  enabled: open,
})
</script>

<template>
  <details @toggle="open = ($event.target as HTMLDetailsElement).open">
    <summary>Used by {{ plural(uses, 'assessment') }}</summary>
    <Trouble :error="query.error.value" />
    <ul>
      <li v-for="(u, i) in query.data.value" :key="i">
        <RouterLink v-if="u.assessmentId" :to="`/assessments/${u.assessmentId}/cuts`">{{ u.title }}</RouterLink>
        <template v-else>{{ u.title }}</template>
        <span class="soft"
          >, {{ u.state }}{{ u.own ? ', cuts of its own' : u.stands < version ? ', an older version' : '' }}</span
        >
      </li>
    </ul>
  </details>
</template>

<style scoped>
summary {
  cursor: pointer;
}
ul {
  margin: 4px 0;
  padding-left: 18px;
}
</style>
