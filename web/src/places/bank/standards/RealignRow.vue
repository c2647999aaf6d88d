<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import { ref } from 'vue'
import { RouterLink } from 'vue-router'
import Trouble from '@/parts/Trouble.vue'
import { api, call, type Schemas } from '@/contract/client'
import { plural } from '@/contract/format'
import { linkNames } from '../links'
import { refreshItems } from '../useItem'

/** One standard with items: what is proposed, or what one types; looked at, done, undone. */
const props = defineProps<{ row: Schemas['Realignment'] }>()
const emit = defineEmits<{ done: [] }>()
const typed = ref(props.row.proposals[0]?.otherCode ?? '')
const drop = ref(false)
const outcome = ref<Schemas['BulkOutcome']>()

const run = useMutation({
  mutationFn: (apply: boolean) =>
    call(
      api.POST('/standards/{id}/realignment', {
        params: { path: { id: props.row.id } },
        body: { to: typed.value.split(/[\s,;]+/).filter(Boolean), drop: drop.value, apply },
      }),
    ),
  onSuccess: async (now) => {
    outcome.value = now
    if (now.id) await refreshItems()
  },
})
const undo = useMutation({
  mutationFn: (id: number) => call(api.DELETE('/item-changes/{id}', { params: { path: { id } } })),
  onSuccess: async () => {
    outcome.value = undefined
    await refreshItems()
    emit('done')
  },
})
</script>

<template>
  <tr>
    <td class="what">
      <span class="mono">{{ row.code }}</span> {{ row.text }}
    </td>
    <td class="num double">
      <RouterLink :to="{ path: '/bank', query: { standard: String(row.id), unlinked: 'true' } }">{{ row.items }}</RouterLink>
    </td>
    <td class="to">
      <input
        v-model="typed"
        class="p-inputtext p-component"
        maxlength="200"
        placeholder="codes"
        :aria-label="`Align ${row.code} to`"
        @input="outcome = undefined"
      />
      <span v-for="p in row.proposals" :key="p.otherCode + p.kind" class="soft proposal">
        <button type="button" class="link-button" @click="((typed = p.otherCode), (outcome = undefined))">
          {{ p.otherCode }}
        </button>
        {{ linkNames[p.kind] }}: {{ p.otherText }}
      </span>
      <span v-if="!row.proposals.length" class="soft proposal">no link proposes anything</span>
    </td>
    <td class="do">
      <label class="soft"><input v-model="drop" type="checkbox" @change="outcome = undefined" /> take {{ row.code }} off</label>
      <button v-if="!outcome" type="button" class="link-button" :disabled="!typed.trim()" @click="run.mutate(false)">
        see what changes
      </button>
      <template v-else-if="!outcome.id">
        <button type="button" class="link-button" :disabled="!outcome.changed" @click="run.mutate(true)">
          align {{ plural(outcome.changed, 'item') }}
        </button>
        <span v-if="outcome.refused" class="soft" :title="outcome.rows[0]?.why">{{ outcome.refused }} not yours</span>
      </template>
      <template v-else>
        <span role="status">{{ plural(outcome.changed, 'item') }} aligned</span>
        <button type="button" class="link-button" @click="undo.mutate(outcome.id)">undo</button>
      </template>
      <Trouble :error="run.error.value ?? undo.error.value" />
    </td>
  </tr>
</template>

<style scoped>
td {
  padding-top: 6px !important;
  padding-bottom: 6px !important;
  vertical-align: top !important;
}
.what {
  width: 34%;
}
.to input {
  padding: 2px 6px;
  width: 220px;
}
.proposal {
  display: block;
  font-size: 12px;
}
.do {
  white-space: nowrap;
}
.do > * {
  display: block;
  margin-bottom: 2px;
}
.do input {
  accent-color: var(--pine);
}
</style>
