<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useCrumb } from '@/parts/crumb'
import Note from '@/parts/Note.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, type Schemas } from '@/contract/client'
import { plural } from '@/contract/format'
import { useSession } from '@/contract/session'
import HoldLine from '../HoldLine.vue'
import HoldPanel from '../HoldPanel.vue'
import ItemFacts from '../ItemFacts.vue'
import ItemLook from '../ItemLook.vue'
import TagPanel from '../TagPanel.vue'
import { refreshItems, useItem } from '../useItem'
import { useTray } from '../useTray'
import CopyPanel from './CopyPanel.vue'
import EditorsPanel from './EditorsPanel.vue'
import ItemComments from './ItemComments.vue'
import ItemApart from './ItemApart.vue'
import ItemReports from './ItemReports.vue'
import ItemTwins from './ItemTwins.vue'
import ItemUses from './ItemUses.vue'
import ItemVersions from './ItemVersions.vue'
import OfferPanel from './OfferPanel.vue'
import ReportPanel from './ReportPanel.vue'

/** Everything about one item: what it is, where it was used and how it worked, what was said about it. */
const route = useRoute()
const router = useRouter()
const { may: role } = useSession()
const tray = useTray()
const id = computed(() => Number(route.params.id))
const version = computed(() => Number(route.query.version) || undefined)
const { detail, may, right } = useItem(
  () => id.value,
  () => version.value,
)
const panel = ref<'tag' | 'hold' | 'editors' | 'report' | 'copy' | 'offer'>()
useCrumb(() => detail.data.value?.item.identifier)

const write = useMutation({
  mutationFn: () => call(api.POST('/item-drafts', { body: { item: id.value } })),
  onSuccess: (draft: Schemas['ItemDraft']) => router.push(`/bank/write/${draft.id}`),
})
const letGo = useMutation({
  mutationFn: () => call(api.DELETE('/item-holds', { params: { query: { items: [id.value] } } })),
  onSuccess: refreshItems,
})
async function done() {
  panel.value = undefined
  await refreshItems()
}
</script>

<template>
  <div class="page">
    <Trouble :error="detail.error.value ?? write.error.value ?? letGo.error.value" />
    <template v-if="detail.data.value">
      <h1 class="mono">{{ detail.data.value.item.identifier }}</h1>
      <div class="acts">
        <Button
          v-if="role('build')"
          label="Write a new version"
          size="small"
          :disabled="!may('change')"
          :title="right('change')?.why"
          @click="write.mutate()"
        />
        <Button
          v-if="role('build')"
          :label="tray.has(id) ? 'Remove from the tray' : 'Add to the tray'"
          size="small"
          severity="secondary"
          outlined
          :disabled="!may('place')"
          @click="tray.toggle(id)"
        />
        <Button label="Tag" size="small" severity="secondary" outlined @click="panel = 'tag'" />
        <template v-if="may('hold')">
          <Button
            v-if="detail.data.value.item.held"
            label="Release"
            size="small"
            severity="secondary"
            outlined
            @click="letGo.mutate()"
          />
          <Button v-else label="Hold" size="small" severity="secondary" outlined @click="panel = 'hold'" />
        </template>
        <Button v-if="may('name')" label="Name editors" size="small" severity="secondary" outlined @click="panel = 'editors'" />
        <Button v-if="may('copy')" label="Copy" size="small" severity="secondary" outlined @click="panel = 'copy'" />
        <Button v-if="may('change')" label="Offer" size="small" severity="secondary" outlined @click="panel = 'offer'" />
        <Button label="Report" size="small" severity="secondary" outlined @click="panel = 'report'" />
      </div>
      <div class="columns">
        <section class="item" aria-label="The item">
          <Note v-if="detail.data.value.number < detail.data.value.item.version">
            This is version {{ detail.data.value.number }}; the newest is {{ detail.data.value.item.version }}.
            <RouterLink :to="`/bank/items/${id}`">Show the newest</RouterLink>
          </Note>
          <HoldLine v-if="detail.data.value.item.held" :hold="detail.data.value.item.held" />
          <ItemLook :detail="detail.data.value" />
          <ItemFacts :detail="detail.data.value" />
          <p v-if="detail.data.value.editors.length" class="soft">
            {{ plural(detail.data.value.editors.length, 'editor') }}:
            {{ detail.data.value.editors.map((p) => p.name).join(', ') }}
          </p>
          <p v-if="role('build') && !may('change')" class="soft">{{ right('change')?.why }}</p>
        </section>
        <div>
          <ItemUses :id="id" />
          <ItemVersions :id="id" :shown="detail.data.value.number" />
          <ItemTwins :id="id" />
          <ItemApart :id="id" :may="may('hold')" />
          <ItemReports :id="id" />
          <ItemComments :id="id" />
        </div>
      </div>
      <TagPanel v-if="panel === 'tag'" :items="[id]" :shown="[detail.data.value.item]" @close="panel = undefined" @done="done" />
      <HoldPanel
        v-if="panel === 'hold'"
        :items="[id]"
        :title="detail.data.value.item.identifier"
        @close="panel = undefined"
        @done="done"
      />
      <EditorsPanel
        v-if="panel === 'editors'"
        :id="id"
        :editors="detail.data.value.editors"
        @close="panel = undefined"
        @done="done"
      />
      <CopyPanel v-if="panel === 'copy'" :id="id" :title="detail.data.value.item.identifier" @close="panel = undefined" />
      <OfferPanel
        v-if="panel === 'offer'"
        :id="id"
        :title="detail.data.value.item.identifier"
        :bank="detail.data.value.item.bank"
        @close="panel = undefined"
        @done="done"
      />
      <ReportPanel
        v-if="panel === 'report'"
        :id="id"
        :version="detail.data.value.number"
        :title="detail.data.value.item.identifier"
        @close="panel = undefined"
        @done="done"
      />
    </template>
  </div>
</template>

<style scoped>
.page {
  padding: 0 18px 40px;
}
h1 {
  font-size: 1.2rem;
  margin: 0 0 10px;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  padding-bottom: 12px;
  border-bottom: 1px solid var(--rule);
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(0, 6fr);
  gap: 28px;
  padding-top: 14px;
}
@media (max-width: 860px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
