<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { ref } from 'vue'
import { RouterLink } from 'vue-router'
import Trouble from '@/parts/Trouble.vue'
import { api, call, type Schemas } from '@/contract/client'
import { moment } from '@/contract/format'
import { refreshItems } from '../useItem'

/** An item that waits for its bank's keepers. */
const props = defineProps<{ offer: Schemas['Offer'] }>()
const answer = ref('')
const answering = ref(false)
const decide = useMutation({
  mutationFn: (state: 'accepted' | 'returned' | 'declined') =>
    call(api.POST('/offers/{id}', { params: { path: { id: props.offer.id } }, body: { state, answer: answer.value } })),
  onSuccess: refreshItems,
})
</script>

<template>
  <article>
    <p class="head">
      <RouterLink :to="`/bank/items/${offer.itemId}`">{{ offer.identifier }}</RouterLink>
      <span class="stem">{{ offer.stem }}</span>
    </p>
    <p v-if="offer.words" class="words">{{ offer.words }}</p>
    <p class="soft">{{ offer.person }} offers it to {{ offer.bank }}, {{ moment(offer.at) }}</p>
    <Trouble :error="decide.error.value" />
    <div class="row">
      <Button label="Accept" size="small" @click="decide.mutate('accepted')" />
      <Button v-if="!answering" label="Return or decline" size="small" severity="secondary" outlined @click="answering = true" />
    </div>
    <form v-if="answering" @submit.prevent="decide.mutate('returned')">
      <label
        >Your words to {{ offer.person }}
        <textarea v-model="answer" rows="2" maxlength="2000" class="p-textarea p-component" />
      </label>
      <div class="row">
        <Button type="submit" label="Return it" size="small" severity="secondary" outlined :disabled="!answer.trim()" />
        <Button
          label="Decline it"
          size="small"
          severity="secondary"
          outlined
          :disabled="!answer.trim()"
          @click="decide.mutate('declined')"
        />
      </div>
    </form>
  </article>
</template>

<style scoped src="./entry.css"></style>
