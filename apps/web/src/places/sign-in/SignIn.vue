<script setup lang="ts">
// Signing in; on the first visit to an empty installation, making the first user.
import type { Role } from '@calm-loop/contract'
import { v7 as uuid } from 'uuid'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { problemWords, type ApiProblem } from '../../api/client.ts'
import { useOutbox } from '../../stores/outbox.ts'
import { useSession } from '../../stores/session.ts'
import WordsField from '../../widgets/WordsField.vue'
import { sure } from '@calm-loop/core/sure'
import WelcomeWords from './WelcomeWords.vue'

const session = useSession()
const outbox = useOutbox()
const router = useRouter()
const route = useRoute()
const name = ref('')
const signIn = ref('')
const password = ref('')
const code = ref('')
const says = ref('')
const busy = ref(false)
const empty = computed(() => session.session?.empty ?? false)
const demo = computed(() => session.session?.demo)
const roleWords = (roles: readonly Role[]) => new Intl.ListFormat('en-GB').format(roles)

async function run(work: () => Promise<void>): Promise<void> {
  busy.value = true
  says.value = ''
  try {
    await work()
    await router.push(String(route.query['to'] ?? '/round'))
  } catch (error) {
    says.value = problemWords(error as ApiProblem)
  } finally {
    busy.value = false
  }
}
const enter = () => run(() => session.signIn(signIn.value, password.value))
const enterAs = (who: string) => run(() => session.signIn(who, sure(demo.value).password))
const first = () =>
  run(() =>
    session.makeFirst({
      id: uuid(),
      name: name.value,
      signIn: signIn.value,
      password: password.value,
      code: code.value,
    }),
  )
const forgotten = ref(false)
const renew = () => run(() => session.reset({ signIn: signIn.value, code: code.value, password: password.value }))
</script>

<template>
  <div class="welcome">
    <WelcomeWords />
    <form v-if="empty" class="form" @submit.prevent="first">
      <h2>The first user</h2>
      <p class="quiet">
        Nobody has been entered yet. You will be able to enter loops, take readings, review the work of others, and look
        after people.
      </p>
      <WordsField
        label="Set-up code"
        :value="code"
        help="The start command has printed it, above the address."
        @typed="code = $event"
      />
      <WordsField
        label="Your name"
        :value="name"
        autocomplete="name"
        help="As it will stand on certificates."
        @typed="name = $event"
      />
      <WordsField
        label="Sign-in name"
        :value="signIn"
        autocomplete="username"
        help="Small letters and digits."
        @typed="signIn = $event"
      />
      <WordsField
        label="Password"
        type="password"
        :value="password"
        autocomplete="new-password"
        help="At least 12 characters; several words are best."
        @typed="password = $event"
      />
      <p v-if="says" class="bad" role="alert">{{ says }}</p>
      <v-btn type="submit" color="primary" variant="flat" :loading="busy">Make this user and begin</v-btn>
    </form>

    <div v-else class="form">
      <section v-if="demo" class="demo">
        <h2>Demo plant: Holmsay Kelp Works</h2>
        <p class="quiet">Made up, with people to try it as.</p>
        <button
          v-for="person in demo.people"
          :key="person.id"
          type="button"
          class="as"
          :disabled="busy"
          @click="enterAs(person.signIn!)"
        >
          <span class="who">{{ person.name }}</span>
          <span class="quiet">{{ roleWords(person.roles) }}</span>
        </button>
        <p class="small quiet">
          Their password, wanted again for signing: <span class="figures">{{ demo.password }}</span>
        </p>
      </section>
      <p v-for="o in outbox.others" :key="o.name" class="look" data-test="others">
        {{ o.count }} {{ o.count === 1 ? 'entry' : 'entries' }} of {{ o.name || 'someone' }}
        {{ o.count === 1 ? 'waits' : 'wait' }} on this device until they sign in here.
      </p>
      <form v-if="forgotten" @submit.prevent="renew">
        <h2>A new password</h2>
        <p class="quiet">With the one-time code that an administrator has given you.</p>
        <WordsField label="Sign-in name" :value="signIn" autocomplete="username" @typed="signIn = $event" />
        <WordsField label="One-time code" :value="code" autocomplete="one-time-code" @typed="code = $event" />
        <WordsField
          label="New password"
          type="password"
          :value="password"
          autocomplete="new-password"
          help="At least 12 characters; several words are best."
          @typed="password = $event"
        />
        <p v-if="says" class="bad" role="alert">{{ says }}</p>
        <div class="do">
          <v-btn type="submit" color="primary" variant="flat" :loading="busy">Set it and sign in</v-btn>
          <v-btn variant="text" @click="forgotten = false">Back</v-btn>
        </div>
      </form>
      <form v-else @submit.prevent="enter">
        <h2>Sign in</h2>
        <WordsField label="Sign-in name" :value="signIn" autocomplete="username" @typed="signIn = $event" />
        <WordsField
          label="Password"
          type="password"
          :value="password"
          autocomplete="current-password"
          @typed="password = $event"
        />
        <p v-if="says" class="bad" role="alert">{{ says }}</p>
        <div class="do">
          <v-btn type="submit" color="primary" variant="flat" :loading="busy">Sign in</v-btn>
          <v-btn variant="text" @click="forgotten = true">I have a one-time code</v-btn>
        </div>
        <p class="small quiet"><router-link to="/verify">Verify a certificate</router-link> without signing in.</p>
      </form>
    </div>
  </div>
</template>

<style scoped>
.welcome {
  min-height: 88vh;
  display: grid;
  grid-template-columns: minmax(0, 1.2fr) minmax(300px, 1fr);
  gap: 64px;
  max-width: 1080px;
  margin: 0 auto;
  align-items: center;
}
.form h2 {
  margin: 16px 0 8px;
}
.as {
  display: flex;
  justify-content: space-between;
  align-items: center;
  width: 100%;
  min-height: 56px;
  border: 0;
  border-bottom: 1px solid var(--hairline);
  background: none;
  font: inherit;
  color: var(--ink);
  cursor: pointer;
  text-align: left;
}
.as:hover .who {
  text-decoration: underline;
}
.who {
  font-weight: 650;
}
.demo {
  margin-bottom: 24px;
}
.demo .small {
  margin-top: 12px;
}
@media (max-width: 900px) {
  .welcome {
    grid-template-columns: minmax(0, 1fr);
    gap: 16px;
    align-items: start;
  }
}
</style>
