<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref, watch } from 'vue'
import Choose from '@/parts/Choose.vue'
import Note from '@/parts/Note.vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import type { Schemas } from '@/contract/client'
import { plural } from '@/contract/format'
import SettingField from './SettingField.vue'
import SettingTrail from './SettingTrail.vue'
import { levelSaid, whyInForce, type Setting, type Settings } from './settings'
import type { Change } from './useSettings'

/** One setting: what is in force and why, what each level says, and what this place is to say. */
const props = defineProps<{ setting: Setting; view: Settings; busy: boolean; error?: Error | null }>()
const emit = defineEmits<{ close: []; change: [change: Change] }>()

const value = ref<unknown>()
const lock = ref<Schemas['SettingLock']>('')
/** What one begins with: what this place says, or what is in force. */
const begin = () => {
  value.value = JSON.parse(JSON.stringify(props.setting.here?.value ?? props.setting.value)) as unknown
  lock.value = props.setting.here?.lock ?? ''
}
watch(() => [props.setting.key, JSON.stringify(props.setting.here), JSON.stringify(props.setting.value)].join(), begin, {
  immediate: true,
})
const here = computed(() => levelSaid(props.view.level, props.view))
const changed = computed(
  () =>
    value.value !== undefined &&
    (JSON.stringify(value.value) !== JSON.stringify(props.setting.here?.value) ||
      lock.value !== (props.setting.here?.lock ?? '')),
)
const locks = computed(() => [
  { value: '' as const, label: 'Others may say otherwise' },
  { value: 'settings' as const, label: 'Lock it; accommodations pass' },
  { value: 'all' as const, label: 'Lock it, for accommodations too' },
])
const quarrels = computed(() => props.view.quarrels.filter((q) => q.key === props.setting.key || q.with === props.setting.key))
</script>

<template>
  <SidePanel :title="setting.name" @close="emit('close')">
    <p class="why">{{ whyInForce(setting, view) }}</p>
    <p class="soft">{{ setting.does }}</p>
    <SettingTrail :setting="setting" :view="view" />
    <Note v-for="q in quarrels" :key="q.text"
      ><strong :class="q.stop ? 'brick' : 'resin'">{{ q.stop ? 'Stop.' : 'Caution.' }}</strong> {{ q.text }}</Note
    >
    <template v-if="setting.meets">
      <h3>What a student meets</h3>
      <blockquote>{{ setting.meets }}</blockquote>
    </template>
    <h3>What {{ here }} says</h3>
    <template v-if="setting.mayChange">
      <form @submit.prevent="changed && emit('change', { key: setting.key, value, lock })">
        <SettingField v-model="value" :setting="setting" />
        <label v-if="view.level !== 'section'" class="field">Lock<Choose v-model="lock" :options="locks" /></label>
        <Trouble :error="error ?? undefined" />
        <div class="row">
          <Button type="submit" label="Save changes" :disabled="!changed" :loading="busy" />
          <Button
            v-if="setting.here"
            label="Say nothing here"
            severity="secondary"
            outlined
            :disabled="busy"
            @click="emit('change', { key: setting.key, value: undefined, lock: '' })"
          />
        </div>
      </form>
    </template>
    <p v-else>{{ setting.whyNot }}</p>
    <p class="soft begun">
      {{ view.begun ? `${plural(view.begun, 'student')} ${view.begun === 1 ? 'has' : 'have'} begun.` : 'Nobody has begun.' }}
      {{ setting.begun }}
    </p>
  </SidePanel>
</template>

<style scoped>
.why {
  font-weight: 600;
  margin: 0 0 6px;
}
h3 {
  margin: 16px 0 8px;
  font: 650 1.05rem var(--serif);
}
.field {
  margin: 12px 0;
  max-width: 320px;
}
.row {
  margin-top: 12px;
}
blockquote {
  margin: 0;
  padding: 2px 0 2px 14px;
  border-left: 4px solid var(--lichen);
  font: 15px/1.5 var(--reading);
}
.begun {
  border-top: 1px solid var(--rule);
  margin-top: 16px;
  padding-top: 8px;
}
</style>
