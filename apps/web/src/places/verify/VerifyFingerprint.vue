<script setup lang="ts">
// Whether a certificate's fingerprint stands on record here: for anyone, without signing in, and nothing else is told.
import { computed, onMounted, ref } from 'vue'
import { useRoute } from 'vue-router'
import { call, type ApiProblem } from '../../api/client.ts'
import SealMark from '../../widgets/SealMark.vue'
import WordsField from '../../widgets/WordsField.vue'

const route = useRoute()
const typed = ref(String(route.query['is'] ?? ''))
const stands = ref<boolean>()
const says = ref('')
const digest = computed(() => typed.value.toLowerCase().replace(/[^0-9a-f]/g, ''))

async function ask(): Promise<void> {
  stands.value = undefined
  says.value = ''
  try {
    stands.value = (await call('verify', { params: { digest: digest.value } })).stands
  } catch (error) {
    says.value = (error as ApiProblem).message
  }
}
onMounted(() => digest.value.length === 64 && ask())
</script>

<template>
  <div class="verify">
    <h1>Verify a certificate</h1>
    <p class="quiet">
      A certificate carries a fingerprint of what was signed, as a code and in figures. Here you are told whether it
      stands on record in this installation, unchanged since it was signed.
    </p>
    <form @submit.prevent="ask">
      <WordsField
        label="Fingerprint"
        :value="typed"
        :help="`64 figures and letters a to f; ${digest.length} so far.`"
        @typed="((typed = $event), (stands = undefined))"
      />
      <v-btn type="submit" color="primary" variant="flat" :disabled="digest.length !== 64">Does it stand?</v-btn>
    </form>
    <p v-if="stands !== undefined" class="answer" role="status" data-test="stands">
      <SealMark :standing="stands ? 'sealed' : 'broken'" wordless />
      <span v-if="stands"
        >It stands: a check or verification with this fingerprint is on record here, and its seals are whole.</span
      >
      <span v-else>It does not stand here: nothing that counts has this fingerprint, or what had it was changed.</span>
    </p>
    <p v-if="says" class="bad" role="alert">{{ says }}</p>
  </div>
</template>

<style scoped>
.verify {
  max-width: 640px;
  margin: 48px auto;
}
form {
  margin: 24px 0;
}
.answer {
  display: flex;
  gap: 12px;
  align-items: center;
  font-size: 18px;
}
</style>
