<script setup lang="ts">
// One's own password, and where one is signed in.
import { PASSWORD_LENGTH } from '@calm-loop/contract/limits'
import { ref, watch } from 'vue'
import type { ApiProblem } from '../api/client.ts'
import { useSession } from '../stores/session.ts'
import SessionList from '../places/people/SessionList.vue'
import WordsField from '../widgets/WordsField.vue'

const open = defineModel<boolean>({ required: true })
const session = useSession()
const current = ref('')
const next = ref('')
const says = ref('')
const done = ref('')
const busy = ref(false)
watch(open, () => (current.value = next.value = says.value = done.value = ''))

async function change(): Promise<void> {
  busy.value = true
  says.value = done.value = ''
  try {
    await session.changePassword(current.value, next.value)
    current.value = next.value = ''
    done.value = 'Your password is changed. Your other sessions have ended.'
  } catch (error) {
    const problem = error as ApiProblem
    says.value = problem.fields?.length ? problem.fields.map((f) => f.rule).join('; ') : problem.message
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <v-dialog v-model="open" aria-label="Password and sessions" scrollable>
    <v-card class="sheet">
      <h2>Password and sessions of {{ session.person?.name }}</h2>
      <form class="change" @submit.prevent="change">
        <WordsField
          label="Present password"
          type="password"
          :value="current"
          autocomplete="current-password"
          @typed="current = $event"
        />
        <WordsField
          label="New password"
          type="password"
          :value="next"
          autocomplete="new-password"
          help="At least 12 characters; several words are best."
          :says="says"
          @typed="next = $event"
        />
        <v-btn
          type="submit"
          color="primary"
          variant="flat"
          :disabled="!current || next.length < PASSWORD_LENGTH.least"
          :loading="busy"
          >Change my password</v-btn
        >
        <p v-if="done" role="status">{{ done }}</p>
      </form>
      <SessionList v-if="open && session.person" :key="done" :person-id="session.person.id" />
      <div class="do"><v-btn variant="text" @click="open = false">Close</v-btn></div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.sheet {
  padding: 24px;
  overflow-y: auto;
}
.change {
  margin: 16px 0;
}
</style>
