<script setup lang="ts">
// A name put under a record: what is said by it, what else it needs (slot), and the signer's password.
import { ref } from 'vue'
import { useSession } from '../../stores/session.ts'
import { useDoing } from '../../widgets/doing.ts'
import OwnPassword from '../../widgets/OwnPassword.vue'

const props = defineProps<{
  title: string
  /** What the signer says by signing, and what follows from it. */
  words: string
  verb: string
  blocked?: boolean
  act: (password: string) => Promise<void>
}>()
const session = useSession()
const password = ref('')
const { busy, says, run } = useDoing()
const submit = async () => {
  if (await run(() => props.act(password.value))) password.value = ''
}
</script>

<template>
  <form class="step" @submit.prevent="submit">
    <h3>{{ title }}</h3>
    <slot />
    <p class="quiet">{{ words }}</p>
    <OwnPassword v-model="password" />
    <v-btn type="submit" color="primary" variant="flat" :disabled="blocked || !password" :loading="busy"
      >{{ verb }} as {{ session.person?.name }}</v-btn
    >
    <p v-if="says" class="bad" role="alert">{{ says }}</p>
  </form>
</template>

<style scoped>
.step {
  max-width: 760px;
  margin: 16px 0 8px;
}
.step > :deep(.entry) {
  max-width: 520px;
}
h3 {
  margin-bottom: 8px;
}
</style>
