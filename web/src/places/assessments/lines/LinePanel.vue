<script setup lang="ts">
import { keepPreviousData, useMutation, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, nextTick, ref, useTemplateRef } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import Note from '@/parts/Note.vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, type Schemas } from '@/contract/client'
import Differences from '@/places/bank/item/Differences.vue'
import OfferPanel from '@/places/bank/item/OfferPanel.vue'
import ReportPanel from '@/places/bank/item/ReportPanel.vue'
import ItemFacts from '@/places/bank/ItemFacts.vue'
import ItemLook from '@/places/bank/ItemLook.vue'
import { withhold } from './lines'
import { splitOff } from './sets'
import SwapOffers from './SwapOffers.vue'
import { useOpenSheet } from '@/places/assessments/sheet/open'

/** A line's item as it is pinned: a newer version to take or leave, an own copy to make, confirm and offer. */
const props = defineProps<{ item: number }>()
const emit = defineEmits<{ close: []; swapped: [item: number] }>()
const router = useRouter()
const { sheet, editable, changeLines, confirmAlignment } = useOpenSheet()
const line = computed(() => sheet.value.lines.find((l) => l.itemId === props.item))
const panel = ref<'report' | 'offer'>()
const said = ref('')

const look = useQuery({
  queryKey: ['line', computed(() => sheet.value.id), computed(() => props.item), computed(() => line.value?.versionId)],
  queryFn: () => call(api.GET('/assessments/{id}/lines/{item}', { params: { path: { id: sheet.value.id, item: props.item } } })),
  enabled: computed(() => !!line.value),
  placeholderData: keepPreviousData,
})
const d = computed(() => look.data.value)
const copy = computed(() => d.value?.detail.rights.find((r) => r.act === 'copy'))

async function take() {
  const versionId = line.value!.newestVersionId
  const taken = await changeLines((l) => l.map((x) => (x.itemId === props.item ? { ...x, versionId } : x)))
  if (taken) said.value = 'The line holds the newest version now. Undo brings the older one back.'
}
/** The panel goes on with the line's new item, and focus stays where one swaps. */
async function swapped(to: number) {
  emit('swapped', to)
  said.value = 'Swapped. Undo brings the item before back.'
  await nextTick()
  offers.value?.$el.querySelector('summary')?.focus()
}
const offers = useTemplateRef<{ $el: HTMLElement }>('offers')
const inSet = computed(() => {
  const at = sheet.value.lines.findIndex((l) => l.itemId === props.item)
  const split = splitOff(sheet.value.lines, props.item, passageOf)
  return at >= 0 && split !== sheet.value.lines
})
const without = computed(() => line.value?.withheld?.map((tool) => tool.key) ?? [])
const setTool = (tool: string, out: boolean) => changeLines((l) => withhold(l, props.item, tool, out))
const passageOf = (id: number) => sheet.value.lines.find((l) => l.itemId === id)?.passageId ?? 0
const split = () => changeLines((l) => splitOff(l, props.item, passageOf))

const change = useMutation({
  mutationFn: () =>
    call(api.POST('/assessments/{id}/lines/{item}/own-copy', { params: { path: { id: sheet.value.id, item: props.item } } })),
  onSuccess: (draft: Schemas['ItemDraft']) => router.push(`/bank/write/${draft.id}`),
})
</script>

<template>
  <SidePanel :title="line ? `Line ${sheet.lines.indexOf(line) + 1}` : 'Line'" @close="emit('close')">
    <Trouble :error="look.error.value ?? change.error.value" />
    <template v-if="d && line">
      <p v-if="said" role="status">{{ said }}</p>
      <Note v-if="line.unconfirmed">
        This is an own copy, changed by {{ line.editor
        }}<template v-if="line.origin"> from {{ line.origin.identifier }}, version {{ line.origin.version }}</template
        >. Its alignment to {{ line.standards.join(', ') || 'nothing' }} may no longer hold.
        <div v-if="editable"><Button label="It still holds" size="small" @click="confirmAlignment(item)" /></div>
      </Note>
      <p v-else-if="line.own" class="soft">
        An own copy, changed by {{ line.editor
        }}<template v-if="line.origin">, of {{ line.origin.identifier }}, version {{ line.origin.version }}</template
        >. The bank’s item is as it was.
      </p>
      <Note v-if="d.newest > line.version">
        The line holds version {{ line.version }}; version {{ d.newest }} is in the bank. What changed:
        <Differences :list="d.newer" />
        <div v-if="editable" class="row">
          <Button :label="`Take version ${d.newest}`" size="small" @click="take" />
          <Button label="Cancel" size="small" severity="secondary" text @click="emit('close')" />
        </div>
      </Note>
      <Note v-if="line.cautions.length"
        ><p v-for="c in line.cautions" :key="c">{{ c }}</p></Note
      >
      <ItemLook :detail="d.detail" />
      <div class="acts">
        <Button
          v-if="editable"
          :label="line.own ? 'Edit this copy' : 'Edit a copy for this assessment'"
          size="small"
          severity="secondary"
          outlined
          :disabled="!line.own && !copy?.may && !d.detail.item.held"
          :title="line.own ? '' : copy?.why"
          :loading="change.isPending.value"
          @click="change.mutate()"
        />
        <Button
          v-if="line.own && sheet.mayChange"
          label="Offer to a bank"
          size="small"
          severity="secondary"
          outlined
          @click="panel = 'offer'"
        />
        <Button v-else label="Report" size="small" severity="secondary" outlined @click="panel = 'report'" />
        <Button
          v-if="editable && inSet"
          label="Split from its passage’s set"
          size="small"
          severity="secondary"
          outlined
          @click="split"
        />
        <RouterLink v-if="!line.own" :to="`/bank/items/${item}`">Its page in the bank</RouterLink>
      </div>
      <details class="tools">
        <summary>
          {{
            line.withheld
              ? `Answered without ${line.withheld.map((w) => w.name.toLowerCase()).join(', ')}`
              : 'Answered with every tool'
          }}
        </summary>
        <fieldset>
          <legend>Tools that students do not have at this line</legend>
          <label v-for="tool in d.tools" :key="tool.key">
            <input
              type="checkbox"
              :checked="without.includes(tool.key)"
              :disabled="!editable"
              @change="setTool(tool.key, ($event.target as HTMLInputElement).checked)"
            />
            {{ tool.name }} <span class="soft">for everyone: {{ tool.words }}</span>
          </label>
        </fieldset>
        <p class="soft">
          Beside each tool stands what everyone has of it. A student whose own support gives a tool does not have it here either,
          unless a coordinator allows it under Supports; items then come one by one.
        </p>
      </details>
      <SwapOffers v-if="editable" ref="offers" :item="item" @swapped="swapped" />
      <ItemFacts :detail="d.detail" />
    </template>
    <OfferPanel
      v-if="panel === 'offer' && line"
      :id="item"
      :title="line.identifier"
      bank=""
      @close="panel = undefined"
      @done="((panel = undefined), (said = 'Offered. You are told on Today what the bank’s keepers say.'))"
    />
    <ReportPanel
      v-if="panel === 'report' && line"
      :id="item"
      :version="line.version"
      :title="line.identifier"
      @close="panel = undefined"
      @done="((panel = undefined), (said = 'Reported. You are told on Today what came of it.'))"
    />
  </SidePanel>
</template>

<style scoped>
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: center;
  margin-bottom: 10px;
}
.tools {
  margin-bottom: 10px;
}
.tools fieldset {
  margin: 6px 0;
  padding: 0;
  border: 0;
}
.tools label {
  display: block;
  padding: 2px 0;
}
</style>
