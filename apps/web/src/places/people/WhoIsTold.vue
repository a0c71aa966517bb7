<script setup lang="ts">
// Who is told what: a broker of one's own over MQTT, and webhooks. Off until somebody sets it up here.
import type { Outgoing, SaveOutgoing } from '@calm-loop/contract'
import { useIntervalFn } from '@vueuse/core'
import { v7 as uuid } from 'uuid'
import { computed, onMounted, reactive, ref } from 'vue'
import { call, problemWords, type ApiProblem } from '../../api/client.ts'
import ChoiceField from '../../widgets/ChoiceField.vue'
import { useDoing } from '../../widgets/doing.ts'
import GradeMark from '../../widgets/GradeMark.vue'
import WordsField from '../../widgets/WordsField.vue'
import WebhookForm from './WebhookForm.vue'
import { ON_OFF, type Hook } from './webhook.ts'

const LOOK_ms = 3000
const told = ref<Outgoing>()
const form = reactive({ on: false, url: '', username: '', prefix: '', password: '' })
const hooks = ref<Hook[]>([])
const changed = ref(false)
const says = ref('')
const { busy, run } = useDoing()
const passwordHelp = computed(() =>
  told.value?.mqtt.hasPassword ? 'One is set; type another to change it.' : 'Kept on the server only.',
)

function take(now: Outgoing): void {
  told.value = now
  if (changed.value) return
  const { hasPassword: _, ...mqtt } = now.mqtt
  Object.assign(form, mqtt, { password: '' })
  hooks.value = now.hooks.map((h) => ({ ...h, secret: '' }))
}
const look = () => call('outgoing').then(take)
onMounted(() => void look().catch((error: ApiProblem) => (says.value = error.message)))
useIntervalFn(() => void look().catch(() => undefined), LOOK_ms)

function edit<K extends keyof typeof form>(key: K, value: (typeof form)[K]): void {
  form[key] = value
  changed.value = true
}
function editHook(id: string, change: Partial<Hook>): void {
  hooks.value = hooks.value.map((h) => (h.id === id ? { ...h, ...change } : h))
  changed.value = true
}
function addHook(): void {
  hooks.value = [
    ...hooks.value,
    { id: uuid(), on: true, url: '', what: ['loop', 'alarm'], hasSecret: false, secret: '' },
  ]
  changed.value = true
}
function dropHook(id: string): void {
  hooks.value = hooks.value.filter((h) => h.id !== id)
  changed.value = true
}
async function save(): Promise<void> {
  says.value = ''
  const { password, ...mqtt } = form
  const body: SaveOutgoing = {
    mqtt: { ...mqtt, ...(password ? { password } : {}) },
    hooks: hooks.value.map(({ hasSecret: _, secret, ...h }) => ({ ...h, ...(secret ? { secret } : {}) })),
  }
  await run(async () => {
    try {
      const now = await call('saveOutgoing', { body })
      changed.value = false
      take(now)
    } catch (error) {
      says.value = problemWords(error as ApiProblem)
    }
  })
}
const stands = computed(() => {
  const now = told.value
  if (!now) return ''
  const waits = now.waiting ? ` ${now.waiting} messages wait.` : ''
  if (!now.mqtt.on) return `Nobody is told over MQTT.${waits}`
  return `${now.broker.reached ? 'The broker is reached.' : `The broker is not reached: ${now.broker.says}.`}${waits}`
})
</script>

<template>
  <section aria-label="Who is told">
    <h2>Who is told</h2>
    <p class="quiet">
      How loops stand, alarms of points that are recorded, and their states go to a broker of your own and to webhooks.
      What they are away for waits a week. <a href="/api/outgoing/schema">The schema of the messages</a>
    </p>
    <p v-if="told" role="status" data-test="told-stands">
      <GradeMark v-if="told.mqtt.on && !told.broker.reached" grade="look" wordless /> {{ stands }}
    </p>
    <form v-if="told" @submit.prevent="save">
      <div class="edit-grid">
        <ChoiceField
          label="MQTT 5"
          :options="ON_OFF"
          :value="form.on ? 'on' : 'off'"
          @choose="edit('on', $event === 'on')"
        />
        <WordsField
          label="Broker"
          :value="form.url"
          help="mqtt://host:1883, or mqtts:// with TLS."
          @typed="edit('url', $event.trim())"
        />
        <WordsField
          label="Topics begin with"
          :value="form.prefix"
          help="Then come tag and kind, as calm-loop/LT-112/loop."
          @typed="edit('prefix', $event.trim())"
        />
        <WordsField
          label="User at the broker"
          :value="form.username"
          help="Empty where it asks for none."
          @typed="edit('username', $event)"
        />
        <WordsField
          label="Password at the broker"
          type="password"
          autocomplete="new-password"
          :value="form.password"
          :help="passwordHelp"
          @typed="edit('password', $event)"
        />
      </div>
      <WebhookForm
        v-for="(h, i) in hooks"
        :key="h.id"
        :hook="h"
        :number="i + 1"
        @edit="editHook(h.id, $event)"
        @off="dropHook(h.id)"
      />
      <p v-if="says" class="bad" role="alert">{{ says }}</p>
      <div class="do">
        <v-btn type="submit" color="primary" variant="flat" :disabled="!changed" :loading="busy">Set who is told</v-btn>
        <v-btn variant="text" @click="addHook">Add a webhook</v-btn>
      </div>
    </form>
  </section>
</template>
