<script setup lang="ts">
// A register that is to hold something else: its cautions, the write, and what was read back.
import type { RegisterValue, WriteRegister } from '@calm-loop/contract'
import type { Register } from '@calm-loop/core/modbus'
import { parseNumber } from '@calm-loop/core/quantity'
import { computed, ref } from 'vue'
import { call } from '../../api/client.ts'
import { usePreferences } from '../../stores/preferences.ts'
import { useDoing } from '../../widgets/doing.ts'
import WordsField from '../../widgets/WordsField.vue'
import CautionBoxes from './CautionBoxes.vue'
import { BY_SITE, CAUTIONS } from './words.ts'

const props = defineProps<{ portId: string; unit: number; register: Register; now: RegisterValue | undefined }>()
const emit = defineEmits<{ done: [held: RegisterValue]; leave: [] }>()
const preferences = usePreferences()
const { busy, says, run } = useDoing()
const typed = ref('')
const said = ref<WriteRegister['cautions']>([])
const value = computed(() => {
  const read = parseNumber(typed.value, { decimalMark: preferences.decimalMark })
  return 'value' in read ? read.value : undefined
})
const ready = computed(() => value.value !== undefined && said.value.length === CAUTIONS.length)
const limits = computed(() => {
  const { least, most, unit, type } = props.register
  if (type === 'bit') return '0 or 1.'
  const ends = [least === undefined ? '' : `at least ${least}`, most === undefined ? '' : `at most ${most}`]
  const words = ends.filter(Boolean).join(', ')
  return words ? `${words} ${unit}`.trim() : ''
})
const write = () =>
  run(async () => {
    if (value.value === undefined) return
    const { unit, register } = props
    const body = { unit, register, value: value.value, cautions: said.value }
    emit('done', await call('writeRegister', { params: { portId: props.portId }, body }))
  })
</script>

<template>
  <form class="write" data-test="write-register" @submit.prevent="write">
    <WordsField
      :label="`${register.name}${register.unit ? `, ${register.unit}` : ''}`"
      :value="typed"
      :help="limits"
      needed
      @typed="typed = $event"
    />
    <CautionBoxes
      v-model="said"
      legend="What a register moves, only its manual says."
      :how="BY_SITE"
      :boxes="CAUTIONS"
    />
    <p v-if="now?.says" class="bad" role="alert">{{ register.name }}: {{ now.says }}.</p>
    <p v-if="says" class="bad" role="alert">{{ says }}</p>
    <div class="do">
      <v-btn type="submit" color="primary" variant="flat" :disabled="!ready" :loading="busy">Write and read back</v-btn>
      <v-btn variant="text" @click="emit('leave')">Leave it</v-btn>
    </div>
  </form>
</template>
