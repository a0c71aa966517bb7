<script setup lang="ts">
// One person in the list: roles and whether they may sign in, a one-time code for a new password, their sessions.
import { ROLES, type ListedPerson, type PersonAccess, type Role } from '@calm-loop/contract'
import { computed, ref, watch } from 'vue'
import { call, type ApiProblem } from '../../api/client.ts'
import { moment } from '../../widgets/dates.ts'
import SessionList from './SessionList.vue'

const props = defineProps<{ person: ListedPerson; mayChange: boolean }>()
const emit = defineEmits<{ changed: [people: ListedPerson[]] }>()
const open = ref(false)
const roles = ref<Role[]>([])
const says = ref('')
const busy = ref(false)
const code = ref<{ code: string; until: string }>()
/** What is chosen and not set yet stays while the list is read again. */
watch(
  () => props.person.roles.join(),
  () => (roles.value = [...props.person.roles]),
  { immediate: true },
)
const differs = computed(() => [...roles.value].sort().join() !== [...props.person.roles].sort().join())

async function run(work: () => Promise<void>): Promise<void> {
  busy.value = true
  says.value = ''
  try {
    await work()
  } catch (error) {
    says.value = (error as ApiProblem).message
    roles.value = [...props.person.roles]
  } finally {
    busy.value = false
  }
}
const params = computed(() => ({ personId: props.person.id }))
const access = (body: PersonAccess) =>
  run(async () => emit('changed', await call('setAccess', { params: params.value, body })))
const reset = () =>
  run(async () => {
    code.value = await call('issueReset', { params: params.value })
    emit('changed', await call('people'))
  })
</script>

<template>
  <tr :class="{ disabled: person.disabled }">
    <td>
      <b>{{ person.name }}</b>
    </td>
    <td class="figures">{{ person.signIn }}</td>
    <td>
      {{ person.roles.join(', ') }}
      <span v-if="person.disabled" class="look"> may not sign in</span>
      <span v-if="person.resetUntil" class="quiet small">
        code for a new password out until {{ moment(person.resetUntil) }}</span
      >
    </td>
    <td v-if="mayChange">
      <button type="button" class="link" :aria-expanded="open" @click="open = !open">
        {{ open ? 'Close' : 'Change' }}<span class="visually-hidden"> {{ person.name }}</span>
      </button>
    </td>
  </tr>
  <tr v-if="open" class="more">
    <td colspan="4">
      <div class="panel">
        <div>
          <h3>Roles</h3>
          <v-btn-toggle
            v-model="roles"
            multiple
            variant="text"
            :disabled="busy"
            :aria-label="`Roles of ${person.name}`"
          >
            <v-btn v-for="role in ROLES" :key="role" :value="role">{{ role }}</v-btn>
          </v-btn-toggle>
          <p class="quiet small">Changing them ends every session of {{ person.name }} at once.</p>
          <div class="do">
            <v-btn
              :disabled="!differs || !roles.length || busy"
              color="primary"
              variant="flat"
              @click="access({ roles, disabled: person.disabled })"
              >Set these roles</v-btn
            >
            <v-btn :disabled="busy" @click="access({ roles: person.roles, disabled: !person.disabled })">{{
              person.disabled ? 'May sign in again' : 'Disable: may not sign in any more'
            }}</v-btn>
          </div>
          <h3>Password</h3>
          <v-btn :disabled="busy || person.disabled" @click="reset">Make a one-time code for a new password</v-btn>
          <p v-if="code" role="status">
            Tell {{ person.name }} this code; it is shown only now and works once, until {{ moment(code.until) }}:
            <span class="figures code" data-test="reset-code">{{ code.code }}</span>
          </p>
          <p v-if="says" class="bad" role="alert">{{ says }}</p>
        </div>
        <SessionList :key="`${person.roles.join()} ${person.disabled}`" :person-id="person.id" />
      </div>
    </td>
  </tr>
</template>

<style scoped>
.disabled td {
  color: var(--second);
}
.look {
  color: var(--look);
}
.panel {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 8px 40px;
  padding: 8px 0 24px;
}
.panel h3 {
  margin-top: 12px;
}
.code {
  display: block;
  font-size: 22px;
  margin-top: 4px;
}
@media (max-width: 900px) {
  .panel {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
