<script setup lang="ts">
// A decision on a loop: its reason and the password of whoever may make it. What was typed stays until it is made.
import { ref } from 'vue'
import { useSession } from '../../stores/session.ts'
import { useDoing } from '../../widgets/doing.ts'
import OwnPassword from '../../widgets/OwnPassword.vue'
import WordsField from '../../widgets/WordsField.vue'

const props = defineProps<{
  title: string
  verb: string
  blocked?: boolean
  act: (reason: string, password: string) => Promise<void>
}>()
const session = useSession()
const reason = ref('')
const password = ref('')
const { busy, says, run } = useDoing()
const submit = async () => {
  if (await run(() => props.act(reason.value.trim(), password.value))) reason.value = ''
  password.value = ''
}
</script>

<template>
  <form class="decide" :aria-label="title" @submit.prevent="submit">
    <slot />
    <WordsField label="Why" :value="reason" needed @typed="reason = $event" />
    <OwnPassword v-model="password" />
    <v-btn
      type="submit"
      color="primary"
      variant="flat"
      :disabled="blocked || !reason.trim() || !password"
      :loading="busy"
      >{{ verb }} as {{ session.person?.name }}</v-btn
    >
    <p v-if="says" class="bad wide" role="alert">{{ says }}</p>
  </form>
</template>

<style scoped>
.decide {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 220px), 1fr));
  gap: 0 24px;
  align-items: center;
}
.wide {
  grid-column: 1 / -1;
}
</style>
