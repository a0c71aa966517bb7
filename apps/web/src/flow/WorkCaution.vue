<script setup lang="ts">
// The caution that belongs to the work at this kind of point.
import { useFolder } from '../stores/folder.ts'

const folder = useFolder()
</script>

<template>
  <p class="caution small">
    <b>Caution.</b> {{ folder.kind?.check.cautions[1] }} Site procedure, local codes and licensed practice come first.
  </p>
</template>
