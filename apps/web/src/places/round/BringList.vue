<script setup lang="ts">
// One list of what to bring for the whole round, ticked as it is packed; a piece of kit says who has it.
import type { LackLine, PackLine } from '@calm-loop/core/round'
import { sure } from '@calm-loop/core/sure'
import { computed, ref } from 'vue'
import type { ApiProblem } from '../../api/client.ts'
import { useRound } from '../../stores/round.ts'
import { moment } from '../../widgets/dates.ts'
import GradeMark from '../../widgets/GradeMark.vue'
import TagList from './TagList.vue'

const props = defineProps<{ pack: readonly PackLine[]; lacks: readonly LackLine[]; may: boolean }>()
const round = useRound()
const says = ref('')
const busy = ref('')
const left = computed(() => props.pack.filter((l) => !round.isPacked(l)).length)
/** Somebody else’s hand is on it. */
const other = (line: PackLine) => (round.isMine(line) ? undefined : round.holderOf(line))
async function move(line: PackLine, taken: boolean): Promise<void> {
  says.value = ''
  busy.value = line.key
  try {
    await round.moveKit(line, taken)
  } catch (error) {
    says.value = (error as ApiProblem).message
  } finally {
    busy.value = ''
  }
}
const tick = (line: PackLine, on: boolean) => (line.piece ? void move(line, on) : round.packed(line.key, on))
</script>

<template>
  <section class="bring" aria-labelledby="bring-head">
    <h2 id="bring-head">To bring</h2>
    <p class="quiet small" role="status">
      {{ pack.length ? (left ? `${left} of ${pack.length} still to pack` : 'all packed') : 'Nothing.' }}
    </p>
    <p v-if="says" class="bad" role="alert">{{ says }}</p>
    <ul>
      <li v-for="line in pack" :key="line.key" :class="{ packed: round.isPacked(line) }" data-test="bring">
        <label>
          <input
            type="checkbox"
            :checked="round.isPacked(line)"
            :disabled="busy === line.key || (!!line.piece && (!may || !!other(line)))"
            @change="tick(line, ($event.target as HTMLInputElement).checked)"
          />
          <span>
            <b v-if="line.piece">{{ line.what }}</b>
            <template v-else>{{ line.count > 1 ? `${line.count} × ` : '' }}{{ line.what }}</template>
            <TagList class="tags" :tags="line.tags" />
            <span v-for="m in line.mind" :key="m" class="small look">{{ m }}</span>
          </span>
        </label>
        <div v-if="other(line)" class="held small">
          {{ other(line)?.holder?.name }} has it since {{ moment(sure(other(line)).at) }}
          <v-btn v-if="may" variant="text" :disabled="busy === line.key" @click="move(line, true)">I have it now</v-btn>
        </div>
      </li>
    </ul>
    <template v-if="lacks.length">
      <h3>Not in the kit</h3>
      <p v-for="lack in lacks" :key="lack.words" class="lack">
        <GradeMark grade="look" wordless /> {{ lack.words }}
        <TagList :tags="lack.tags" />
      </p>
    </template>
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0 0 16px;
  padding: 0;
}
li {
  border-bottom: 1px solid var(--hairline);
}
label {
  display: flex;
  gap: 12px;
  min-height: 44px;
  padding: 8px 0;
  align-items: flex-start;
  cursor: pointer;
}
input {
  width: 20px;
  height: 20px;
  margin: 2px 0 0;
  flex: none;
  accent-color: var(--action);
}
.packed label > span {
  color: var(--second);
}
.tags,
.look {
  display: block;
}
.look {
  color: var(--look);
}
.held {
  padding: 0 0 6px 32px;
  color: var(--look);
}
h3 {
  margin-bottom: 4px;
}
</style>
