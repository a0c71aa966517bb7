<script setup lang="ts">
// Two signatures under a verification: who did it, with which kit and where; then a reviewer who had no hand in it.
import type { Gear } from '@calm-loop/contract'
import { handsInRun, standOfRun, type Verification } from '@calm-loop/contract/judging'
import { sure } from '@calm-loop/core/sure'
import { v7 as uuid } from 'uuid'
import { computed, onMounted, ref } from 'vue'
import { call } from '../../api/client.ts'
import { useFolder } from '../../stores/folder.ts'
import { useSession } from '../../stores/session.ts'
import WordsField from '../../widgets/WordsField.vue'
import EquipmentTicks from './EquipmentTicks.vue'
import ExpiredReason from './ExpiredReason.vue'
import SignedLine from './SignedLine.vue'
import SignForm from './SignForm.vue'

const props = defineProps<{ of: Verification }>()
const folder = useFolder()
const session = useSession()
const ids = { performed: uuid(), reviewed: uuid() }
const kit = ref<Gear[]>([])
const chosen = ref<string[]>([])
const ambient = ref('')
const expiredReason = ref('')
onMounted(async () => (kit.value = await call('gear').catch(() => [])))
const expired = computed(() =>
  kit.value.filter((g) => chosen.value.includes(g.id) && g.due < props.of.from.slice(0, 10)),
)
const STATEMENTS = {
  performed: 'I did this verification with the equipment named.',
  reviewed: 'I have reviewed this record and agree with its verdict.',
}
const signed = computed(() => props.of.signatures.map((s) => s.role))
const handIn = computed(() => handsInRun(props.of).includes(session.person?.id ?? ''))
const stand = computed(() => standOfRun(props.of))
/** The signature that is next; undefined when nothing is. */
const next = computed<'performed' | 'reviewed' | undefined>(() => {
  if (stand.value === 'broken' || stand.value === 'elsewhere') return undefined
  if (!signed.value.includes('performed')) return 'performed'
  return signed.value.includes('reviewed') ? undefined : 'reviewed'
})
async function sign(role: 'performed' | 'reviewed', password: string): Promise<void> {
  // What was typed of the entries is judged by; it must be saved before it is closed.
  await folder.save()
  await call('signRun', {
    params: { loopId: sure(folder.view).loop.id, runId: props.of.run, entryId: ids[role] },
    body: {
      role,
      statement: STATEMENTS[role],
      password,
      ambient: ambient.value.trim(),
      gearIds: chosen.value,
      expiredReason: expired.value.length ? expiredReason.value.trim() : '',
    },
  })
  await folder.refresh()
}
</script>

<template>
  <div>
    <ol v-if="of.signatures.length" class="trail">
      <li v-for="s in of.signatures" :key="s.id"><SignedLine :signature="s" /></li>
    </ol>
    <template v-if="next === 'performed'">
      <SignForm
        v-if="session.has('technician') && handIn"
        title="Sign as the one who did it"
        :words="`${STATEMENTS.performed} Once signed, nothing in it can be changed.`"
        verb="Sign"
        :blocked="expired.length > 0 && !expiredReason.trim()"
        :act="(password) => sign('performed', password)"
      >
        <EquipmentTicks v-model="chosen" :kit="kit" />
        <ExpiredReason v-model="expiredReason" :expired="expired" />
        <WordsField label="Surroundings" :value="ambient" help="Such as outdoors, dry." @typed="ambient = $event" />
      </SignForm>
      <p v-else class="quiet">Who did it signs it: {{ of.by.join(', ') }}.</p>
    </template>
    <SignForm
      v-else-if="next === 'reviewed' && session.has('reviewer') && !handIn"
      title="Countersign as reviewer"
      :words="STATEMENTS.reviewed"
      verb="Countersign"
      :act="(password) => sign('reviewed', password)"
    />
    <p v-else-if="next === 'reviewed'" class="quiet">A reviewer who had no hand in it countersigns it.</p>
  </div>
</template>

<style scoped>
.trail {
  list-style: none;
  padding: 0;
  margin: 0 0 8px;
}
.trail li {
  padding: 6px 0;
}
</style>
