<script setup lang="ts">
// Who may sign in, and with which role.
import { ROLES, type ListedPerson, type Role } from '@calm-loop/contract'
import { v7 as uuid } from 'uuid'
import { computed, onMounted, ref } from 'vue'
import { call, problemWords, type ApiProblem } from '../../api/client.ts'
import { useSession } from '../../stores/session.ts'
import WordsField from '../../widgets/WordsField.vue'
import PersonRow from './PersonRow.vue'
import SealKeys from './SealKeys.vue'
import WhoIsTold from './WhoIsTold.vue'

const session = useSession()
const people = ref<ListedPerson[]>([])
const mayChange = computed(() => session.has('administrator'))
const says = ref('')
const adding = ref(false)
const blank = () => ({ id: uuid(), name: '', signIn: '', password: '', roles: ['technician'] as Role[] })
const person = ref(blank())
const load = async () => (people.value = await call('people'))
onMounted(() => load().catch((error: ApiProblem) => (says.value = error.message)))

async function add(): Promise<void> {
  says.value = ''
  try {
    await call('addPerson', { params: { personId: person.value.id }, body: person.value })
    person.value = blank()
    adding.value = false
    await load()
  } catch (error) {
    says.value = problemWords(error as ApiProblem)
  }
}
</script>

<template>
  <div class="place-head">
    <h1>People</h1>
    <v-btn v-if="mayChange && !adding" color="primary" variant="flat" @click="adding = true">Add a person</v-btn>
  </div>
  <p class="quiet">
    A technician enters loops, takes readings and signs. A reviewer countersigns the work of others and reads the audit
    trail. An administrator looks after people and keys. Nobody countersigns their own work.
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
      help="At least 12 characters."
      @typed="person.password = $event"
    />
    <div class="entry">
      <span class="entry-label">Roles</span>
      <v-btn-toggle v-model="person.roles" multiple variant="text" aria-label="Roles">
        <v-btn v-for="role in ROLES" :key="role" :value="role">{{ role }}</v-btn>
      </v-btn-toggle>
    </div>
    <p v-if="says" class="bad" role="alert">{{ says }}</p>
    <div class="do">
      <v-btn type="submit" color="primary" variant="flat" :disabled="!person.roles.length">Add this person</v-btn>
      <v-btn variant="text" @click="adding = false">Leave</v-btn>
    </div>
  </form>
  <!-- A row keeps what is chosen and told in it, so none is ever taken out of the page. -->
  <v-table>
    <thead>
      <tr>
        <th>Name</th>
        <th>Sign-in</th>
        <th>Roles</th>
        <th v-if="mayChange"><span class="visually-hidden">Change</span></th>
      </tr>
    </thead>
    <tbody>
      <PersonRow v-for="p in people" :key="p.id" :person="p" :may-change="mayChange" @changed="people = $event" />
    </tbody>
  </v-table>
  <SealKeys />
  <WhoIsTold v-if="mayChange" />
</template>
