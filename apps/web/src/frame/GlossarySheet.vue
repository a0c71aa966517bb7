<script setup lang="ts">
// The field's words, one key away: search, and read.
import { findTerms } from '@calm-loop/core/words'
import { computed, nextTick, onMounted, ref } from 'vue'
import WordsField from '../widgets/WordsField.vue'

const open = defineModel<boolean>({ required: true })
const search = ref('')
const found = computed(() => findTerms(search.value))
const sheet = ref<{ $el: HTMLElement }>()
onMounted(async () => {
  await nextTick()
  sheet.value?.$el.querySelector('input')?.focus()
})
</script>

<template>
  <v-dialog v-model="open" max-width="720" aria-label="Words of the field">
    <v-card ref="sheet" class="pa-6 sheet">
      <h2>Words of the field</h2>
      <WordsField label="Find a word" :value="search" @typed="search = $event" />
      <dl v-if="found.length" tabindex="0" aria-label="Words">
        <template v-for="t in found" :key="t.term">
          <dt>
            {{ t.term }}
            <span v-if="t.also.length" class="quiet small">also: {{ t.also.join(', ') }}</span>
          </dt>
          <dd>{{ t.means }}</dd>
        </template>
      </dl>
      <p v-else class="quiet">That word is not here. Try another one for it.</p>
      <v-btn class="mt-4 close" @click="open = false">Close</v-btn>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.sheet {
  display: flex;
  flex-direction: column;
  max-height: 88vh;
}
.close {
  align-self: flex-start;
}
dl {
  overflow-y: auto;
  margin: 8px 0 0;
  min-height: 200px;
}
dt {
  font-weight: 650;
  border-top: 1px solid var(--hairline);
  padding-top: 10px;
}
dt span {
  font-weight: 400;
  margin-left: 8px;
}
dd {
  margin: 0 0 10px;
}
</style>
