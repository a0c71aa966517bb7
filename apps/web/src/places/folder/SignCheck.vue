<script setup lang="ts">
// The loop given back to operations, then two signatures by two people.
import type { Check, Signature } from '@calm-loop/contract'
import { standOfCheck } from '@calm-loop/contract/judging'
import { gateWording } from '@calm-loop/core/check'
import { v7 as uuid } from 'uuid'
import { computed, ref } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { useLater } from '../../stores/later.ts'
import { useOutbox } from '../../stores/outbox.ts'
import { signedHere } from '../../stores/with-waiting.ts'
import { useSession } from '../../stores/session.ts'
import { moment } from '../../widgets/dates.ts'
import { useDoing } from '../../widgets/doing.ts'
import WordsField from '../../widgets/WordsField.vue'
import SignedLine from './SignedLine.vue'
import SignForm from './SignForm.vue'
import { sure } from '@calm-loop/core/sure'

const props = defineProps<{ check: Check }>()
const folder = useFolder()
const session = useSession()
const gateId = uuid()
const ids = { performed: uuid(), reviewed: uuid(), accepted: uuid() }
const told = ref('')
const { busy, says, run } = useDoing()

const discrete = computed(() => folder.kind?.family === 'switch')
const RELEASED = computed(() => gateWording('loop-released', discrete.value ? 'switch' : 'current'))
const STATEMENTS = {
  performed: 'I took these readings with the equipment named.',
  reviewed: 'I have reviewed this record and agree with its verdict.',
  accepted: 'I have reviewed this record from elsewhere and take it over as a check of this installation.',
}
const gateName = (gate: string) =>
  gate === 'loop-in-manual'
    ? discrete.value
      ? 'Machine safe to move'
      : 'Loop in manual'
    : discrete.value
      ? 'Machine given back'
      : 'Loop given back'
const allRead = computed(
  () => new Set(props.check.readings.map((r) => r.pointIndex)).size === props.check.points.length,
)
const released = computed(() => props.check.gates.some((g) => g.gate === 'loop-released'))
const performed = computed(() => props.check.signatures.find((s) => s.role === 'performed'))
const reviewed = computed(() => props.check.signatures.find((s) => s.role === 'reviewed'))
const handIn = computed(() =>
  [props.check.startedBy, ...props.check.readings.map((r) => r.by), ...props.check.gates.map((g) => g.by)].some(
    (by) => by.id === session.person?.id,
  ),
)
const stand = computed(() => standOfCheck(props.check))
const next = computed<'read' | 'release' | 'performed' | 'reviewed' | 'accepted' | 'done'>(() =>
  stand.value === 'broken'
    ? 'done'
    : props.check.imported
      ? stand.value === 'imported' && performed.value
        ? 'accepted'
        : 'done'
      : reviewed.value
        ? 'done'
        : performed.value
          ? 'reviewed'
          : !allRead.value
            ? 'read'
            : !released.value
              ? 'release'
              : 'performed',
)
/** The signature that this person may give now. */
const signing = computed(() => {
  if (next.value === 'performed' && session.has('technician'))
    return {
      role: 'performed' as const,
      title: 'Sign as the one who performed it',
      warning: 'Once signed, nothing in this check can be changed.',
      verb: 'Sign',
    }
  if (next.value === 'reviewed' && session.has('reviewer') && !handIn.value)
    return { role: 'reviewed' as const, title: 'Countersign as reviewer', warning: '', verb: 'Countersign' }
  if (next.value === 'accepted' && session.has('reviewer'))
    return {
      role: 'accepted' as const,
      title: 'Accept it as a check of this installation',
      warning: '',
      verb: 'Accept',
    }
  return undefined
})
const params = computed(() => ({ loopId: sure(folder.view).loop.id, checkId: props.check.id }))

const later = useLater()
const outbox = useOutbox()
/** Given here out of coverage: sealed when the server is reached. */
const given = computed(() => signedHere(outbox.waiting, props.check.id))
const release = () =>
  run(async () => {
    const body = { gate: 'loop-released' as const, words: RELEASED.value, told: told.value.trim() }
    await later.write({ endpoint: 'confirmGate', id: gateId, params: { ...params.value, gateId }, body })
    await folder.refresh().catch(() => undefined)
  })
async function sign(role: Signature['role'], password: string): Promise<void> {
  const said = { role, statement: STATEMENTS[role] }
  const id = ids[role]
  await later.write({
    ...{ endpoint: 'sign', id, params: { ...params.value, signatureId: id } },
    body: { ...said, password },
    // A password is kept nowhere: it is asked for again when it can be sealed.
    waits: { ...said, password: '' },
  })
  await folder.refresh().catch(() => undefined)
}
</script>

<template>
  <section class="sign" aria-label="Signatures">
    <ol class="trail">
      <li v-for="g in check.gates" :key="g.id">
        <b>{{ gateName(g.gate) }}</b>: {{ g.by.name }}, {{ moment(g.at) }}; told {{ g.told }}.
      </li>
      <li v-for="s in check.signatures" :key="s.id">
        <SignedLine :signature="s" />
      </li>
    </ol>
    <p v-if="given.length" data-test="given-here">
      <b>Signed here by {{ sure(given[0]).byName }}</b
      >, {{ moment(new Date(sure(given[0]).at).toISOString()) }}. It waits to be sealed: when the server is reached,
      your password is asked for once, under what waits on this device.
    </p>
    <p v-else-if="next === 'read'" class="quiet">
      Not every point is read yet.
      <router-link :to="`/loops/${folder.view!.loop.id}/check`">Go on with the check</router-link>.
    </p>
    <form v-else-if="next === 'release' && session.has('technician')" class="step" @submit.prevent="release">
      <h3>Gate: {{ discrete ? 'machine given back' : 'loop given back' }}</h3>
      <p class="quiet">{{ RELEASED }}</p>
      <WordsField label="Who in operations was told" :value="told" needed @typed="told = $event" />
      <v-btn type="submit" color="primary" variant="flat" :disabled="!told.trim()" :loading="busy"
        >Confirm {{ discrete ? 'machine' : 'loop' }} given back</v-btn
      >
    </form>
    <SignForm
      v-else-if="signing"
      :key="signing.role"
      :title="signing.title"
      :words="`${STATEMENTS[signing.role]} ${signing.warning}`"
      :verb="signing.verb"
      :act="(password) => sign(sure(signing).role, password)"
    />
    <p v-else-if="next === 'accepted'" class="quiet">A reviewer of this installation may accept it.</p>
    <p v-else-if="next === 'reviewed'" class="quiet">
      {{
        session.has('reviewer')
          ? 'You had a hand in this check, so another reviewer countersigns it.'
          : 'A reviewer countersigns it.'
      }}
    </p>
    <p v-if="says" class="bad" role="alert">{{ says }}</p>
  </section>
</template>

<style scoped>
.sign {
  border-top: 1px solid var(--hairline);
  padding-top: 8px;
}
.trail {
  list-style: none;
  padding: 0;
  margin: 0 0 8px;
}
.trail li {
  padding: 6px 0;
}
.step {
  max-width: 520px;
  margin: 8px 0;
}
</style>
