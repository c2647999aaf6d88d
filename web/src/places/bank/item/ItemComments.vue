<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, queries } from '@/contract/client'
import { moment } from '@/contract/format'

/** What is said about an item among those who may read its key. */
const props = defineProps<{ id: number }>()
const key = computed(() => ['item-comments', props.id])
const comments = useQuery({
  queryKey: key,
  queryFn: () => call(api.GET('/items/{id}/comments', { params: { path: { id: props.id } } })),
})
const words = ref('')
const say = useMutation({
  mutationFn: () => call(api.POST('/items/{id}/comments', { params: { path: { id: props.id } }, body: { words: words.value } })),
  onSuccess: (now) => {
    queries.setQueryData(key.value, now)
    words.value = ''
  },
})
</script>

<template>
  <section aria-labelledby="comments">
    <h2 id="comments">Comments</h2>
    <ol v-if="comments.data.value?.length">
      <li v-for="c in comments.data.value" :key="c.id">
        <p>
          <strong>{{ c.person }}</strong> <span class="soft">{{ moment(c.at) }}, on version {{ c.version }}</span>
        </p>
        <p class="words">{{ c.words }}</p>
      </li>
    </ol>
    <form @submit.prevent="say.mutate()">
      <label
        >Add a comment for others who see this item
        <textarea v-model="words" rows="2" maxlength="2000" class="p-textarea p-component" />
      </label>
      <Trouble :error="comments.error.value ?? say.error.value" />
      <Button
        type="submit"
        label="Comment"
        size="small"
        severity="secondary"
        outlined
        :disabled="!words.trim()"
        :loading="say.isPending.value"
      />
    </form>
  </section>
</template>

<style scoped>
section {
  margin-bottom: 22px;
}
h2 {
  margin-bottom: 6px;
}
ol {
  list-style: none;
  padding: 0;
  margin: 0 0 10px;
  border-top: 1.5px solid var(--ink);
}
li {
  padding: 6px 0;
  border-bottom: 1px solid var(--rule);
}
p {
  margin: 0;
}
.words {
  white-space: pre-line;
}
textarea {
  display: block;
  width: 100%;
  margin: 3px 0 6px;
}
</style>
