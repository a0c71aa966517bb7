<script setup lang="ts">
// Keys of seals: this installation's own, to be told to others, and those of others that are trusted here.
import type { SealKey } from '@calm-loop/contract'
import { computed, onMounted, ref } from 'vue'
import { call, type ApiProblem } from '../../api/client.ts'
import { useSession } from '../../stores/session.ts'
import { dayWords } from '../../widgets/dates.ts'
import SealMark from '../../widgets/SealMark.vue'
import WordsField from '../../widgets/WordsField.vue'
import { sure } from '@calm-loop/core/sure'

const session = useSession()
const keys = ref<SealKey[]>([])
const name = ref('')
const given = ref('')
const says = ref('')
/** What another installation shows of its key: its number and the key, with a space between. */
const parts = computed(() => /^\s*([0-9a-f]{16})\s+(\S{40,})\s*$/.exec(given.value))

async function run(work: () => Promise<SealKey[]>): Promise<boolean> {
  says.value = ''
  try {
    keys.value = await work()
    return true
  } catch (error) {
    says.value = (error as ApiProblem).message
    return false
  }
}
onMounted(() => run(() => call('sealKeys')))
const trust = ({ id, name: called, publicKey }: Pick<SealKey, 'id' | 'name' | 'publicKey'>, trusted: boolean) =>
  run(() => call('trustKey', { params: { keyId: id }, body: { name: called, publicKey, trusted } }))
async function add(): Promise<void> {
  const [, id, publicKey] = sure(parts.value)
  if (await trust({ id: sure(id), name: name.value.trim(), publicKey: sure(publicKey) }, true))
    name.value = given.value = ''
}
</script>

<template>
  <section aria-label="Keys of seals">
    <h2>Keys of seals</h2>
    <p class="quiet">
      Every signature is sealed with this installation’s key. To let another installation verify what was signed here,
      give it the line below; to verify what comes from there, enter the line that it shows.
    </p>
    <ul class="list">
      <li v-for="k in keys" :key="k.id">
        <SealMark :standing="k.trusted ? 'sealed' : 'claimed'" wordless />
        <div class="grow">
          <b>{{ k.name }}</b>&nbsp;
          <span class="quiet small">since {{ dayWords(k.since) }}{{ k.trusted ? '' : ', not trusted' }}</span>
          <div class="figures line">{{ k.id }} {{ k.publicKey }}</div>
        </div>
        <v-btn v-if="!k.own && session.has('administrator')" variant="text" @click="trust(k, !k.trusted)">{{
          k.trusted ? 'Withdraw the trust' : 'Trust it again'
        }}</v-btn>
      </li>
    </ul>
    <form v-if="session.has('administrator')" class="edit-grid" @submit.prevent="add">
      <WordsField label="Name of the other installation" :value="name" @typed="name = $event" />
      <WordsField
        label="The line that it shows"
        :value="given"
        help="A number of 16 digits and the key. Make sure by another way that it is theirs."
        @typed="given = $event"
      />
      <div class="do"><v-btn type="submit" :disabled="!parts || !name.trim()">Trust this key</v-btn></div>
    </form>
    <p v-if="says" class="bad" role="alert">{{ says }}</p>
  </section>
</template>

<style scoped>
section {
  margin-top: 32px;
}
.list {
  list-style: none;
  padding: 0;
}
.list li {
  display: flex;
  gap: 12px;
  align-items: center;
  min-height: 56px;
  border-top: 1px solid var(--hairline);
}
.grow {
  flex: 1;
  min-width: 0;
}
.line {
  font-size: 14px;
  overflow-wrap: anywhere;
  user-select: all;
}
</style>
