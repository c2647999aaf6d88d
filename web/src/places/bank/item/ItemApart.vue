<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref } from 'vue'
import { RouterLink } from 'vue-router'
import Trouble from '@/parts/Trouble.vue'
import { api, call, queries } from '@/contract/client'

/** Items that must not meet this one on a form: a draw keeps them apart. */
const props = defineProps<{ id: number; may: boolean }>()
const key = computed(() => ['apart', props.id])
const list = useQuery({
  queryKey: key,
  queryFn: () => call(api.GET('/items/{id}/apart', { params: { path: { id: props.id } } })),
})
const other = ref('')
const reason = ref('')
const keep = useMutation({
  mutationFn: () =>
    call(
      api.POST('/items/{id}/apart', {
        params: { path: { id: props.id } },
        body: { other: other.value.trim(), reason: reason.value.trim() },
      }),
    ),
  onSuccess: (now) => {
    queries.setQueryData(key.value, now)
    other.value = reason.value = ''
  },
})
const meet = useMutation({
  mutationFn: (id: number) => call(api.DELETE('/items/{id}/apart/{other}', { params: { path: { id: props.id, other: id } } })),
  onSuccess: (now) => queries.setQueryData(key.value, now),
})
</script>

<template>
  <section aria-labelledby="apart">
    <h2 id="apart">Must not meet</h2>
    <Trouble :error="list.error.value ?? keep.error.value ?? meet.error.value" />
    <p v-if="list.data.value && !list.data.value.length" class="soft">
      It may stand beside any other item. Name one here that gives its answer away, and draws keep them apart.
    </p>
    <ul>
      <li v-for="p in list.data.value" :key="p.itemId">
        <span
          ><RouterLink class="mono" :to="`/bank/items/${p.itemId}`">{{ p.identifier }}</RouterLink> {{ p.stem }}
          <small v-if="p.reason" class="soft">{{ p.reason }}</small></span
        >
        <button
          v-if="may"
          type="button"
          class="link-button"
          :aria-label="`Let ${p.identifier} meet it`"
          @click="meet.mutate(p.itemId)"
        >
          let them meet
        </button>
      </li>
    </ul>
    <form v-if="may" class="row" @submit.prevent="keep.mutate()">
      <InputText v-model="other" placeholder="Identifier" aria-label="Identifier of the other item" size="small" />
      <InputText v-model="reason" placeholder="Why" aria-label="Why they must not meet" size="small" maxlength="500" />
      <Button type="submit" label="Keep apart" size="small" severity="secondary" outlined :disabled="!other.trim()" />
    </form>
  </section>
</template>

<style scoped>
section {
  margin-bottom: 22px;
}
ul {
  list-style: none;
  margin: 6px 0;
  padding: 0;
}
li {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 5px 0;
  border-bottom: 1px solid var(--rule);
}
small {
  display: block;
}
</style>
