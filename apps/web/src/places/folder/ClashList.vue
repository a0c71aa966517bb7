<script setup lang="ts">
// Entries that someone else changed while they were being changed here: both are shown, one is chosen.
import { useFolder } from '../../stores/folder.ts'

const folder = useFolder()
</script>

<template>
  <section class="clashes" role="alert" aria-label="Changed by two people">
    <h3>Changed by two people</h3>
    <div v-for="clash in folder.clashes" :key="clash.key" class="clash">
      <span
        ><b>{{ clash.label ?? clash.key }}</b
        >: {{ clash.who ?? 'someone' }} saved <span class="figures">{{ clash.theirs || 'nothing' }}</span>; you have
        <span class="figures">{{ clash.mine || 'nothing' }}</span>, not saved yet.</span
      >
      <span class="do">
        <v-btn @click="folder.settle(clash, 'mine')">Keep mine</v-btn>
        <v-btn @click="folder.settle(clash, 'theirs')">Take theirs</v-btn>
      </span>
    </div>
  </section>
</template>

<style scoped>
.clashes {
  border-left: 4px solid var(--look);
  padding: 4px 0 4px 16px;
  margin-bottom: 16px;
}
.clash {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 16px;
  padding: 6px 0;
  flex-wrap: wrap;
}
.do {
  display: flex;
  gap: 8px;
}
</style>
