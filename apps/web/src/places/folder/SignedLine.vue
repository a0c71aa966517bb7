<script setup lang="ts">
// One signature: as what, by whom, when, in which words, and how its seal stands.
import type { Signature } from '@calm-loop/contract'
import { moment } from '../../widgets/dates.ts'
import SealMark from '../../widgets/SealMark.vue'

type Under = 'role' | 'by' | 'at' | 'statement' | 'standing' | 'keyName'
defineProps<{ signature: Pick<Signature, Under> }>()
const AS = { performed: 'Performed by', reviewed: 'Reviewed by', accepted: 'Accepted by' }
</script>

<template>
  <span>
    <b>{{ AS[signature.role] }} {{ signature.by.name }}</b
    >, {{ moment(signature.at) }}. {{ signature.statement }}
    <SealMark v-if="signature.standing" :standing="signature.standing" />
    <span v-if="signature.standing === 'verified'" class="quiet small">
      against the key “{{ signature.keyName }}” that is trusted here</span
    >
  </span>
</template>
