<script setup lang="ts">
// The password of whoever is signed in, asked for again before a name is put under something.
import WordsField from './WordsField.vue'

const password = defineModel<string>({ required: true })
</script>

<template>
  <WordsField
    label="Your password"
    type="password"
    :value="password"
    needed
    autocomplete="current-password"
    @typed="password = $event"
  />
</template>
