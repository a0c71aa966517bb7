<script setup lang="ts">
// Signatures that were given out of coverage: the password of who gave them, asked once, seals them.
import { computed, ref } from 'vue'
import { useOutbox } from '../stores/outbox.ts'
import { useDoing } from '../widgets/doing.ts'
import OwnPassword from '../widgets/OwnPassword.vue'
import { ageWords } from '../widgets/ago.ts'

const outbox = useOutbox()
const password = ref('')
const { busy, run } = useDoing()
const tags = computed(() => [...new Set(outbox.toSeal.map((w) => w.tag))].join(', '))
const since = computed(() => ageWords(Math.min(...outbox.toSeal.map((w) => w.at)), Date.now()))
async function seal(): Promise<void> {
  const typed = password.value
  password.value = ''
  await run(() => outbox.seal(typed))
}
</script>

<template>
  <section v-if="outbox.toSeal.length" aria-label="Waits to be sealed" data-test="to-seal">
    <h3>Signed here, and waits to be sealed</h3>
    <p>
      {{ tags }}: signed {{ since === 'just now' ? 'just now' : `${since} ago` }}. What follows for
      {{ outbox.toSeal.length === 1 ? 'this loop' : 'these loops' }} waits with it.
    </p>
    <form @submit.prevent="seal">
      <OwnPassword v-model="password" />
      <v-btn type="submit" color="primary" variant="flat" :disabled="!password || outbox.offline" :loading="busy"
        >Seal what I signed</v-btn
      >
      <p v-if="outbox.offline" class="quiet small">The server cannot be reached yet.</p>
      <p v-if="outbox.notSealed" class="bad" role="alert">{{ outbox.notSealed }}</p>
    </form>
  </section>
</template>

<style scoped>
form {
  max-width: 520px;
}
</style>
