<script setup lang="ts">
import { useClipboard } from '@vueuse/core'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { ref } from 'vue'
import Trouble from '@/parts/Trouble.vue'
import { moment } from '@/contract/format'
import { useOpenSheet } from '@/places/assessments/sheet/open'

/** The link by which staff let themselves in: made, shown once, ended. */
const { sheet, makeLink, endLink } = useOpenSheet()
const copy = ref(false)
const print = ref(true)
const address = ref('')
const error = ref<Error>()
const { copy: toClipboard, copied } = useClipboard({ legacy: true })

async function run(act: () => Promise<string>) {
  try {
    error.value = undefined
    address.value = await act()
  } catch (e) {
    error.value = e as Error
  }
}
/** The secret stands after the #, where no server and no log reads it along the way. */
const make = () => run(async () => `${location.origin}/shared#${await makeLink({ copy: copy.value, print: print.value })}`)
const end = () => run(async () => (await endLink(), ''))
</script>

<template>
  <section class="share-link" aria-labelledby="share-link-title">
    <h3 id="share-link-title">A link</h3>
    <Trouble :error="error" />
    <div v-if="address" class="made">
      <label
        >Give this to coordinators and teachers; it is shown only now.
        <InputText :model-value="address" readonly @focus="($event.target as HTMLInputElement).select()" />
      </label>
      <Button :label="copied ? 'Copied' : 'Copy it'" severity="secondary" outlined @click="toClipboard(address)" />
    </div>
    <p v-if="sheet.link">
      A link of {{ sheet.link.madeBy }}, {{ moment(sheet.link.madeAt) }}, lets staff who are signed in see this<template
        v-if="sheet.link.copy || sheet.link.print"
      >
        and {{ [sheet.link.copy && 'copy', sheet.link.print && 'print'].filter(Boolean).join(' and ') }} it</template
      >. <button type="button" class="link-button" @click="end">End the link</button>
    </p>
    <p v-else class="soft">
      Who is given the link and signs in as a coordinator or teacher is let in and appears on this list. Students get nothing by
      it.
    </p>
    <div class="make">
      <label><input v-model="copy" type="checkbox" /> may copy</label>
      <label><input v-model="print" type="checkbox" /> may print</label>
      <Button
        :label="sheet.link ? 'Make a new link, which ends this one' : 'Make a link'"
        size="small"
        severity="secondary"
        outlined
        @click="make"
      />
    </div>
  </section>
</template>

<style scoped>
.share-link {
  margin-top: 18px;
  padding-top: 12px;
  border-top: 1px solid var(--rule);
}
.made {
  display: flex;
  gap: 8px;
  align-items: end;
}
.made label {
  flex: 1;
  display: grid;
  gap: 3px;
}
.make {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: center;
}
.make label {
  display: flex;
  gap: 5px;
  align-items: center;
}
</style>
