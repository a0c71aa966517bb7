<script setup lang="ts">
// The logo at the head of papers: shown as it is printed, set from a picture, taken off.
import type { SiteLogo } from '@calm-loop/contract'
import { LOGO_BYTES } from '@calm-loop/contract'
import { onMounted, ref } from 'vue'
import { call } from '../../api/client.ts'
import { useSession } from '../../stores/session.ts'
import { useDoing } from '../../widgets/doing.ts'
import PickFile from '../../widgets/PickFile.vue'

const session = useSession()
const { busy, says, run } = useDoing()
const kept = ref<SiteLogo>({ logo: null })
onMounted(async () => {
  kept.value = await call('siteLogo').catch(() => kept.value)
})
const put = (file: Blob) => run(async () => void (kept.value = await call('saveSiteLogo', { file })))
const takeOff = () => put(new Blob())
const TOO_LARGE = `A logo is at most ${LOGO_BYTES / 1e6} MB large.`
function take(file: File): void {
  if (file.size > LOGO_BYTES) says.value = TOO_LARGE
  else void put(file)
}
</script>

<template>
  <div class="logo" data-test="logo">
    <img v-if="kept.logo" :src="kept.logo" alt="The logo of this site, as it is printed" />
    <span v-else class="quiet">No logo</span>
    <template v-if="session.has('administrator')">
      <PickFile label="Take a logo from a picture" accept="image/png,image/jpeg,image/webp" @picked="take" />
      <v-btn v-if="kept.logo" variant="text" :loading="busy" @click="takeOff">Take it off</v-btn>
    </template>
    <p v-if="says" class="bad" role="alert">{{ says }}</p>
  </div>
</template>

<style scoped>
.logo {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 24px;
  min-height: 56px;
}
img {
  max-width: 260px;
  max-height: 80px;
  padding: 8px;
  background: #fff;
}
</style>
