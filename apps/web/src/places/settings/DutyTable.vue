<script setup lang="ts">
// Which role keeps the kit, sets limits, adds rows: the site decides.
import { ROLES, USUAL_DUTIES, type Duties, type Duty, type Role } from '@calm-loop/contract'
import { computed, ref } from 'vue'
import { call, type ApiProblem } from '../../api/client.ts'
import { useSession } from '../../stores/session.ts'

const session = useSession()
const says = ref('')
const NAMES: Record<Duty, string> = {
  kit: 'Test equipment and its due dates',
  limits: 'The site’s limits for trims',
  rows: 'Rows of the site’s own tables',
  fitness: 'Intervals between checks, and use of what was left out of tolerance',
}
const duties = computed(() => session.session?.duties ?? USUAL_DUTIES)
const take = (now: Duties) => void (session.session && (session.session.duties = now))
async function set(duty: Duty, role: Role): Promise<void> {
  says.value = ''
  try {
    take(await call('saveDuties', { body: { ...duties.value, [duty]: role }, was: duties.value }))
  } catch (error) {
    const { code, current, message } = error as ApiProblem
    if (code === 'setting-changed' && current) take(current as Duties)
    says.value = message
  }
}
</script>

<template>
  <section aria-label="Who may change what">
    <h2>Who may change what</h2>
    <dl>
      <div v-for="(name, duty) in NAMES" :key="duty">
        <dt>{{ name }}</dt>
        <dd>
          <v-btn-toggle
            v-if="session.has('administrator')"
            :model-value="duties[duty]"
            mandatory
            variant="text"
            :aria-label="name"
            @update:model-value="set(duty, $event as Role)"
          >
            <v-btn v-for="role in ROLES" :key="role" :value="role">{{ role }}</v-btn>
          </v-btn-toggle>
          <template v-else>{{ duties[duty] }}</template>
        </dd>
      </div>
    </dl>
    <p v-if="says" class="bad" role="alert">{{ says }}</p>
  </section>
</template>

<style scoped>
section {
  margin-top: 32px;
}
dl > div {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  align-items: center;
  gap: 8px 24px;
  min-height: 52px;
  border-bottom: 1px solid var(--hairline);
}
dd {
  margin: 0;
}
</style>
