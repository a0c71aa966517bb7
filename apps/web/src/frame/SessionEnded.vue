<script setup lang="ts">
// Told where the work is: the session has ended, the work goes on, and signing in here sends what waits.
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import type { ApiProblem } from '../api/client.ts'
import { useOutbox } from '../stores/outbox.ts'
import { useSession } from '../stores/session.ts'
import GradeMark from '../widgets/GradeMark.vue'
import WordsField from '../widgets/WordsField.vue'

const session = useSession()
const outbox = useOutbox()
const router = useRouter()
const password = ref('')
const says = ref('')
const busy = ref(false)

async function again(): Promise<void> {
  busy.value = true
  says.value = ''
  try {
    await session.signInAgain(password.value)
    password.value = ''
  } catch (error) {
    says.value = (error as ApiProblem).message
  } finally {
    busy.value = false
  }
}
/** What waits stays on this device under the name of who wrote it. */
async function other(): Promise<void> {
  await session.signOut()
  await router.push('/sign-in')
}
</script>

<template>
  <section v-if="session.ended" class="ended" role="alert" aria-label="Session ended" data-test="session-ended">
    <p class="words">
      <GradeMark grade="look" />
      <span>
        Your session has ended. Go on: what you enter is kept on this device
        <template v-if="outbox.waiting.length">({{ outbox.waiting.length }} now)</template> and sent when you sign in
        again.
      </span>
    </p>
    <form @submit.prevent="again">
      <WordsField
        :label="`Password of ${session.person?.name ?? ''}`"
        type="password"
        :value="password"
        autocomplete="current-password"
        :says="says"
        @typed="password = $event"
      />
      <v-btn type="submit" color="primary" variant="flat" :disabled="!password" :loading="busy">Sign in again</v-btn>
      <v-btn variant="text" @click="other">I am someone else</v-btn>
    </form>
  </section>
</template>

<style scoped>
.ended {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 560px);
  gap: 8px 24px;
  align-items: center;
  padding: 8px 24px;
  border-bottom: 2px solid var(--look);
  background: var(--sheet);
}
.words {
  display: flex;
  gap: 12px;
  align-items: baseline;
  margin: 0;
}
form {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto auto;
  gap: 12px;
  align-items: center;
}
@media (max-width: 1000px) {
  .ended {
    grid-template-columns: minmax(0, 1fr);
    padding: 8px 16px;
  }
}
@media (max-width: 560px) {
  form {
    grid-template-columns: 1fr;
  }
}
</style>
