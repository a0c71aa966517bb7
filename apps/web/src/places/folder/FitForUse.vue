<script setup lang="ts">
// A loop that was left out of tolerance says so on every page of it, until someone who may says otherwise.
import { sure } from '@calm-loop/core/sure'
import { lastGoodBefore } from '@calm-loop/contract/judging'
import { computed, ref } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { useSession } from '../../stores/session.ts'
import { useStanding } from '../../stores/standing.ts'
import { dayWords } from '../../widgets/dates.ts'
import GradeMark from '../../widgets/GradeMark.vue'
import DecideForm from './DecideForm.vue'

const folder = useFolder()
const session = useSession()
const record = useStanding()
const open = ref(false)
const left = computed(() => record.standing?.notFit)
const allowed = computed(() => record.standing?.allowed)
const mended = computed(() => {
  const done = record.standing?.done ?? []
  const at = done.findIndex((c) => c.id === left.value?.id)
  return at >= 0 && done.slice(at + 1).some((c) => c.pass)
})
const lastGood = computed(() => left.value && lastGoodBefore(record.standing?.done ?? [], left.value.id))
const allow = async (reason: string, password: string) => {
  await record.decide({ what: 'fit', check: sure(left.value).id, reason }, password)
  open.value = false
}
</script>

<template>
  <aside v-if="left" class="unfit" aria-label="Not fit for use" data-test="not-fit">
    <p>
      <GradeMark grade="stop" wordless /> <b>Not fit for use.</b> Left out of tolerance on {{ dayWords(left.day)
      }}{{ lastGood ? `; last in tolerance on ${dayWords(lastGood)}` : '' }}.
      {{
        mended
          ? 'A later check passed; it is fit again once that is countersigned.'
          : 'It is due at once. Someone with the duty may allow its use, with a reason.'
      }}
    </p>
    <template v-if="session.hasDuty('fitness') && !folder.practising">
      <v-btn v-if="!open" variant="text" data-test="allow" @click="open = true">Allow its use</v-btn>
      <DecideForm v-else title="Allow its use" verb="Allow its use" :act="allow" />
    </template>
  </aside>
  <p v-else-if="allowed" class="allowed small" data-test="allowed">
    <GradeMark grade="look" wordless /> Left out of tolerance; its use was allowed by {{ allowed.by.name }},
    {{ dayWords(allowed.at) }}: {{ allowed.reason }}
  </p>
</template>

<style scoped>
.unfit {
  padding: 8px 0 8px 16px;
  margin-bottom: 8px;
  border-left: 4px solid var(--stop);
}
.unfit p {
  margin: 0;
}
.unfit b {
  color: var(--stop);
}
.allowed {
  margin: 0 0 8px;
  color: var(--look);
}
</style>
