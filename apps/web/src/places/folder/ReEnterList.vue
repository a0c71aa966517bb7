<script setup lang="ts">
// What has to be entered again after a choice was changed, with what stands there now.
import { entryWords } from '@calm-loop/core/kinds'
import { useFolder } from '../../stores/folder.ts'
import { useReEnter, type Outstanding } from '../../stores/re-enter.ts'
import { useSession } from '../../stores/session.ts'
import GradeMark from '../../widgets/GradeMark.vue'

const reEnter = useReEnter()
const folder = useFolder()
const session = useSession()
/** Gone from the record: it can only be typed again. */
const isLost = (o: Outstanding, key: string) => o.field?.forgets && !folder.entries[key]?.typed
</script>

<template>
  <section
    v-for="o in reEnter.outstanding"
    :key="o.reset.id"
    class="again"
    aria-label="To be entered again"
    :data-reset="o.reset.field"
  >
    <p>
      <GradeMark grade="look" /> {{ o.field?.label ?? o.reset.field }} was changed from {{ o.reset.from }} to
      {{ o.reset.to }} by {{ o.reset.by.name }}. A device forgets with it what is listed here: enter it again, at the
      device and on record.
    </p>
    <ul>
      <li v-for="f in o.fields" :key="f.key">
        <span>{{ f.label }}</span>
        <span class="figures">{{ entryWords(f, folder.entries[f.key]?.typed ?? f.default ?? '') }}</span>
        <button
          v-if="session.has('technician') && !isLost(o, f.key)"
          type="button"
          class="link"
          @click="reEnter.stands(o.reset.id, f.key)"
        >
          Entered at the device as it stands
        </button>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.again {
  border-left: 4px solid var(--look);
  padding-left: 12px;
  margin: 0 0 16px;
}
ul {
  list-style: none;
  padding: 0;
  margin: 0;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1.2fr) minmax(0, 1fr) auto;
  gap: 4px 16px;
  align-items: center;
  border-top: 1px solid var(--hairline);
}
</style>
