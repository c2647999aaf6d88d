<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import Trouble from '@/parts/Trouble.vue'
import { api, call } from '@/contract/client'

/** Where a link leads that somebody was given: to its assessment. The way back does not lead through here. */
const route = useRoute()
const router = useRouter()
const error = ref<Error>()
onMounted(async () => {
  try {
    const { id } = await call(api.POST('/links', { body: { secret: route.hash.slice(1) } }))
    await router.replace(`/assessments/${id}/lines`)
  } catch (e) {
    error.value = e as Error
  }
})
</script>

<template>
  <div class="follow"><Trouble :error="error" /></div>
</template>

<style scoped>
.follow {
  max-width: 640px;
  padding: 20px 22px;
}
</style>
