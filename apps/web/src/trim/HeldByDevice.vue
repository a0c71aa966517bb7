<script setup lang="ts">
// What the device of the loop said that it holds when it was last asked, in the units of the chain.
import { useTrim } from '../stores/trim.ts'
import HeldList from './HeldList.vue'

const trim = useTrim()
</script>

<template>
  <template v-if="trim.device && trim.known">
    <h3>The device says that it holds</h3>
    <HeldList
      :held="trim.device.held"
      :terms="{
        unit: trim.known.digital.unit,
        decimals: trim.known.digital.decimals,
        receiverUnit: trim.known.controller.unit,
        receiverDecimals: trim.known.controller.decimals,
      }"
    />
  </template>
</template>

<style scoped>
h3 {
  margin: 16px 0 4px;
}
</style>
