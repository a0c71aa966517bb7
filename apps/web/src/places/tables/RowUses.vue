<script setup lang="ts">
// Which loops use a row, by what stands in their entries; where other figures are given, what those would move in each.
import type { TableUse, TableUses } from '@calm-loop/contract'
import { onMounted, shallowRef } from 'vue'
import { call } from '../../api/client.ts'
import { useDoing } from '../../widgets/doing.ts'

const props = defineProps<{ name: string; of: TableUse['of']; fills?: Readonly<Record<string, string>> }>()
const { busy, says, run } = useDoing()
const found = shallowRef<TableUses>()
onMounted(() =>
  run(async () => {
    const body: TableUse = props.fills ? { of: props.of, fills: { ...props.fills } } : { of: props.of }
    found.value = await call('tableUses', { body })
  }),
)
const count = (n: number) => `${n} ${n === 1 ? 'loop uses' : 'loops use'}`
</script>

<template>
  <section :aria-label="`Loops that use ${name}`" data-test="row-uses">
    <p v-if="busy" class="quiet small" role="status">looking through the loops</p>
    <p v-if="says" class="bad" role="alert">{{ says }}</p>
    <template v-if="found">
      <p role="status">
        <b>{{ found.loops.length ? count(found.loops.length + found.more) : 'No loop uses' }} {{ name }}.</b>
        <span v-if="'rowId' in of && found.loops.length" class="quiet small">
          Its figures, or those before them, stand in their entries.
        </span>
      </p>
      <ul>
        <li v-for="l in found.loops" :key="l.id" :data-uses="l.tag">
          <router-link :to="`/loops/${l.id}/point`" class="link figures">{{ l.tag }}</router-link>
          {{ l.service }} <span class="quiet small">{{ l.area }}</span>
          <span v-if="'rowId' in of && l.row !== of.rowId" class="small look">with figures of before</span>
          <ul v-if="fills" class="small">
            <li v-for="m in l.moved" :key="m.label">
              {{ m.label }}: <span class="figures">{{ m.before }} → {{ m.after }}</span>
            </li>
            <li v-for="c in l.come" :key="c" class="look">comes: {{ c }}</li>
            <li v-for="c in l.gone" :key="c">goes: {{ c }}</li>
            <li v-if="!l.moved.length && !l.come.length && !l.gone.length" class="quiet">nothing moves</li>
          </ul>
        </li>
      </ul>
      <p v-if="found.more" class="quiet small">and {{ found.more }} more</p>
    </template>
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0 0 0 16px;
}
li {
  padding: 2px 0;
}
.look {
  color: var(--look);
}
</style>
