<script setup lang="ts">
// Identify: what is mounted, and what hangs on its signal; and the label that opens this folder.
import { computed, ref } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import LabelSheet from '../loops/LabelSheet.vue'
import StagePage from './StagePage.vue'

const folder = useFolder()
const labelling = ref(false)
const loop = computed(() => folder.view?.loop)
</script>

<template>
  <StagePage
    stage="identify"
    title="Identify"
    caution="Find out what moves when this signal moves before anything is disconnected."
  >
    <template #more>
      <div class="do">
        <v-btn variant="text" @click="labelling = true">Label to scan</v-btn>
      </div>
      <LabelSheet v-if="labelling && loop" v-model="labelling" :of="loop.tag" :query="{ loopId: loop.id }" />
    </template>
  </StagePage>
</template>
