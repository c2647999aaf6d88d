<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import Empty from '@/parts/Empty.vue'
import PageHead from '@/parts/PageHead.vue'
import Trouble from '@/parts/Trouble.vue'
import { useCrumb } from '@/parts/crumb'
import { api, call } from '@/contract/client'
import { plural, tenths } from '@/contract/format'
import { refreshItems } from '../useItem'
import TwinCard from './TwinCard.vue'

/** New items of an import beside what they are nearly the same as: kept, joined as versions, or dropped. */
const route = useRoute()
const id = computed(() => Number(route.params.id))
useCrumb(() => 'Nearly the same')
const pairs = useQuery({
  queryKey: ['import-twins', id],
  queryFn: () => call(api.GET('/imports/{id}/twins', { params: { path: { id: id.value } } })),
})
const settle = useMutation({
  mutationFn: ({ what, item, into }: { what: 'keep' | 'join' | 'drop'; item: number; into: number }) => {
    const path = { path: { id: item } }
    if (what === 'keep') return call(api.DELETE('/items/{id}/twins', { params: path }))
    if (what === 'drop') return call(api.DELETE('/items/{id}', { params: path }))
    return call(api.POST('/items/{id}/join', { params: path, body: { into } }))
  },
  onSuccess: async () => {
    await pairs.refetch()
    void refreshItems()
  },
})
</script>

<template>
  <div class="page">
    <PageHead
      title="Nearly the same"
      :note="pairs.data.value ? `${plural(pairs.data.value.length, 'new item')} of this import beside what each is like` : ''"
    />
    <Trouble :error="pairs.error.value ?? settle.error.value" />
    <Empty
      v-if="pairs.data.value && !pairs.data.value.length"
      text="Every new item of this import is settled, or none is like another."
    />
    <section v-for="p in pairs.data.value" :key="p.new.item.id" class="pair" :aria-label="p.new.item.identifier">
      <TwinCard title="New" :shown="p.new.shown" :keys="p.new.keys" :name="`new-${p.new.item.id}`" :item="p.new.item" />
      <TwinCard
        :title="`${tenths(p.new.likeness)}% alike`"
        :shown="p.twin.shown"
        :keys="p.twin.keys"
        :name="`twin-${p.new.item.id}`"
        :item="p.twin.item"
      />
      <div class="row">
        <Button
          label="Keep both"
          size="small"
          @click="settle.mutate({ what: 'keep', item: p.new.item.id, into: p.twin.item.id })"
        />
        <Button
          v-if="p.twin.mayJoin"
          :label="`Make it the next version of ${p.twin.item.identifier}`"
          size="small"
          severity="secondary"
          outlined
          @click="settle.mutate({ what: 'join', item: p.new.item.id, into: p.twin.item.id })"
        />
        <Button
          label="Delete the new one"
          size="small"
          severity="secondary"
          outlined
          @click="settle.mutate({ what: 'drop', item: p.new.item.id, into: p.twin.item.id })"
        />
      </div>
    </section>
  </div>
</template>

<style scoped>
.page {
  padding: 0 22px 40px;
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px 24px;
  padding: 12px 0;
  border-top: 1.5px solid var(--ink);
}
.pair > .row {
  grid-column: 1 / 3;
}
</style>
