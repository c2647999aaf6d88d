<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { ref } from 'vue'
import { RouterLink } from 'vue-router'
import StateTag from '@/parts/StateTag.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, type Schemas } from '@/contract/client'
import { capital, moment, plural } from '@/contract/format'
import { refreshItems } from '../useItem'

/** One report: what is wrong, where the item stands, and the answer. */
const props = defineProps<{ report: Schemas['ItemReport']; named?: boolean }>()
const answer = ref('')
const answering = ref(false)
const close = useMutation({
  mutationFn: (mended: boolean) =>
    call(api.POST('/item-reports/{id}', { params: { path: { id: props.report.id } }, body: { mended, answer: answer.value } })),
  onSuccess: refreshItems,
})
</script>

<template>
  <article>
    <p class="head">
      <StateTag :state="report.state" :tone="report.state === 'open' ? 'caution' : 'quiet'" />
      <strong> {{ capital(report.fault) }}</strong>
      <template v-if="named">
        <RouterLink :to="`/bank/items/${report.itemId}#reports`">{{ report.identifier }}</RouterLink>
        <span class="stem">{{ report.stem }}</span>
      </template>
    </p>
    <p class="words">{{ report.words }}</p>
    <p class="soft">
      {{ report.person }}, {{ moment(report.at) }}, on version {{ report.version
      }}{{ report.newest > report.version ? `; version ${report.newest} is the newest` : '' }}
    </p>
    <p v-if="report.answer" class="words">
      <strong>{{ report.closer }}:</strong> {{ report.answer }}
    </p>
    <template v-if="report.state === 'open' && report.mayMend">
      <p v-if="report.uses.length">
        Held by {{ plural(report.uses.length, 'assessment') }}:
        <template v-for="(u, i) in report.uses" :key="i"
          >{{ i ? ', ' : '' }}<RouterLink v-if="u.mine" :to="`/assessments/${u.assessmentId}/lines`">{{ u.title }}</RouterLink
          ><template v-else>{{ u.title }}</template> ({{ u.sealedAt ? 'sealed' : 'draft' }}, line {{ u.line }})</template
        >
      </p>
      <Button v-if="!answering" label="Answer" size="small" severity="secondary" outlined @click="answering = true" />
      <form v-else @submit.prevent>
        <label
          >Your answer
          <textarea v-model="answer" rows="2" maxlength="2000" class="p-textarea p-component" />
        </label>
        <Trouble :error="close.error.value" />
        <div class="row">
          <Button label="It is fixed" size="small" :disabled="!answer.trim()" @click="close.mutate(true)" />
          <Button
            label="Nothing to fix"
            size="small"
            severity="secondary"
            outlined
            :disabled="!answer.trim()"
            @click="close.mutate(false)"
          />
        </div>
      </form>
    </template>
  </article>
</template>

<style scoped src="./entry.css"></style>
