<script setup lang="ts">
// One week: a row for each person, a column for each day; each visit may be settled.
import type { Visit } from '@calm-loop/core/round'
import { daysFrom, spreadWords, weekday } from '@calm-loop/core/round'
import { daysLater } from '@calm-loop/core/check'
import { computed } from 'vue'
import { dayInYear, dayWords, today } from '../../widgets/dates.ts'

const props = defineProps<{
  monday: string
  visits: readonly Visit[]
  people: readonly { readonly id: string; readonly name: string }[]
  workingDays: readonly number[]
  /** Words of what stands still, by day. */
  still: (day: string) => string
}>()
const emit = defineEmits<{ settle: [visit: Visit] }>()
const days = computed(() =>
  daysFrom(props.monday, daysLater(props.monday, 6)).filter(
    (d) => props.workingDays.includes(weekday(d)) || props.visits.some((v) => v.day === d),
  ),
)
const at = (day: string, person: string) => props.visits.filter((v) => v.day === day && v.personId === person)
const rows = computed(() => props.people.filter((p) => props.visits.some((v) => v.personId === p.id)))
const standing = computed(() => [...new Set(days.value.map(props.still))].filter(Boolean))
const minutes = (list: readonly Visit[]) => list.reduce((sum, v) => sum + v.expected.minutes, 0)
const name = (day: string) => new Intl.DateTimeFormat('en-GB', { weekday: 'short' }).format(new Date(`${day}T12:00:00`))
const says = (v: Visit) => {
  const state = `${v.late ? ', late' : ''}${v.pinned ? ', settled' : ''}`
  return `${v.loop.tag} in ${v.loop.area}, due ${dayWords(v.due)}${state}: settle it`
}
</script>

<template>
  <section class="week" :data-week="monday" :aria-label="`Week of ${dayWords(monday)}`">
    <h3>
      Week of {{ dayWords(monday) }}
      <span class="small quiet">{{ visits.length }} {{ visits.length === 1 ? 'check' : 'checks' }}</span>
    </h3>
    <p v-if="!visits.length" class="quiet small">
      Nothing is put into it.
      <span v-for="words in standing" :key="words" class="still">{{ words }}</span>
    </p>
    <div v-else class="grid" :style="{ '--days': days.length }">
      <span class="head" />
      <span v-for="day in days" :key="day" class="head small" :class="{ past: day < today() }">
        {{ name(day) }} {{ dayInYear(day) }}
        <span v-if="still(day)" class="still">{{ still(day) }}</span>
      </span>
      <template v-for="p in rows" :key="p.id">
        <b class="who">{{ p.name }}</b>
        <div v-for="day in days" :key="day" class="cell" :class="{ none: !at(day, p.id).length }">
          <span class="day-name small quiet">{{ name(day) }} {{ dayInYear(day) }}</span>
          <button
            v-for="v in at(day, p.id)"
            :key="v.loop.id"
            type="button"
            class="visit figures"
            :class="{ late: v.late, pinned: v.pinned }"
            :aria-label="says(v)"
            :title="`${v.loop.area}, ${spreadWords(v.expected)}, due ${dayWords(v.due)}`"
            @click="emit('settle', v)"
          >
            {{ v.loop.tag }}
          </button>
          <span v-if="at(day, p.id).length" class="small quiet">{{ minutes(at(day, p.id)) }} min</span>
        </div>
      </template>
    </div>
  </section>
</template>

<style scoped>
.week {
  margin-top: 20px;
}
.grid {
  display: grid;
  grid-template-columns: 132px repeat(var(--days), minmax(0, 1fr));
  gap: 0 8px;
}
.head {
  color: var(--second);
  border-bottom: 1px solid var(--second);
  padding: 4px 0;
}
.still {
  display: block;
  color: var(--look);
}
.who,
.cell {
  border-bottom: 1px solid var(--hairline);
  padding: 8px 0;
  min-height: 44px;
}
.cell {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
}
.day-name {
  display: none;
}
.visit {
  background: none;
  border: 0;
  border-left: 3px solid var(--action);
  color: var(--ink);
  padding: 0 8px;
  min-height: 44px;
  min-width: 44px;
  cursor: pointer;
  text-align: left;
}
.visit.late {
  border-left-color: var(--look);
  color: var(--look);
}
.visit.pinned {
  font-weight: 700;
  border-left-width: 6px;
}
@media (max-width: 740px) {
  .grid {
    grid-template-columns: minmax(0, 1fr);
  }
  .head,
  .cell.none {
    display: none;
  }
  .day-name {
    display: block;
  }
  .who {
    border-bottom: 0;
    padding-bottom: 0;
    min-height: 0;
  }
}
</style>
