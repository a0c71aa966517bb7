<script setup lang="ts">
// Who may sign in, and with which role.
import type { Person, Role } from '@calm-loop/contract'
import { v7 as uuid } from 'uuid'
import { onMounted, ref } from 'vue'
import { call, type ApiProblem } from '../../api/client.ts'
import { useSession } from '../../stores/session.ts'
import WordsField from '../../widgets/WordsField.vue'

const session = useSession()
const people = ref<Person[]>([])
const says = ref('')
const adding = ref(false)
const blank = () => ({ id: uuid(), name: '', signIn: '', password: '', roles: ['technician'] as Role[] })
const person = ref(blank())
const load = async () => (people.value = await call('people'))
onMounted(() => load().catch((error: ApiProblem) => (says.value = error.message)))

function toggle(role: Role): void {
  const roles = person.value.roles
  person.value.roles = roles.includes(role) ? roles.filter((r) => r !== role) : [...roles, role]
}
async function add(): Promise<void> {
  says.value = ''
  try {
    await call('addPerson', { params: { personId: person.value.id }, body: person.value })
    person.value = blank()
    adding.value = false
    await load()
  } catch (error) {
    const problem = error as ApiProblem
    says.value = problem.fields.length ? problem.fields.map((f) => `${f.path}: ${f.rule}`).join('; ') : problem.message
  }
}
</script>

<template>
  <div class="place-head">
    <h1>People</h1>
    <v-btn v-if="session.has('reviewer') && !adding" color="primary" variant="flat" @click="adding = true"
      >Add a person</v-btn
    >
  </div>
  <p class="quiet">
    A technician enters loops, takes readings and signs. A reviewer countersigns the work of others and adds people.
    Nobody countersigns their own work.
  </p>
  <form v-if="adding" class="edit-grid" @submit.prevent="add">
    <WordsField
      label="Name"
      :value="person.name"
      help="As it will stand on certificates."
      @typed="person.name = $event"
    />
    <WordsField
      label="Sign-in name"
      :value="person.signIn"
      help="Small letters and digits."
      @typed="person.signIn = $event"
    />
    <WordsField
      label="First password"
      type="password"
      :value="person.password"
      autocomplete="new-password"
      help="At least 10 characters."
      @typed="person.password = $event"
    />
    <div role="group" aria-label="Roles" class="entry">
      <span class="entry-label">Roles</span>
      <div class="roles">
        <button
          v-for="role in ['technician', 'reviewer'] as const"
          :key="role"
          type="button"
          class="pick"
          :aria-pressed="person.roles.includes(role)"
          @click="toggle(role)"
        >
          {{ role }}
        </button>
      </div>
    </div>
    <p v-if="says" class="bad" role="alert">{{ says }}</p>
    <div class="do">
      <v-btn type="submit" color="primary" variant="flat" :disabled="!person.roles.length">Add this person</v-btn>
      <v-btn variant="text" @click="adding = false">Leave</v-btn>
    </div>
  </form>
  <table class="plain">
    <thead>
      <tr>
        <th>Name</th>
        <th>Sign-in</th>
        <th>Roles</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="p in people" :key="p.id">
        <td>
          <b>{{ p.name }}</b>
        </td>
        <td class="figures">{{ p.signIn }}</td>
        <td>{{ p.roles.join(', ') }}</td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.roles {
  display: flex;
  gap: 20px;
}
.pick {
  min-height: 44px;
  background: none;
  border: 0;
  border-bottom: 3px solid transparent;
  font: inherit;
  color: var(--second);
  cursor: pointer;
}
.pick[aria-pressed='true'] {
  color: var(--ink);
  font-weight: 650;
  border-bottom-color: var(--action);
}
</style>
