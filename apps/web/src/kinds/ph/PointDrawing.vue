<script setup lang="ts">
import RangeInLimits from '../direct/RangeInLimits.vue'
</script>

<template><RangeInLimits /></template>
