<script setup lang="ts">
// Bringing in a folder bundle or a register CSV; a refusal says what is wrong and where, and stores nothing.
import { ref } from 'vue'
import { call, type ApiProblem } from '../../api/client.ts'

const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ done: [] }>()
const MOST = 24 * 1024 * 1024
const says = ref('')
const details = ref<{ path: string; rule: string }[]>([])
const good = ref('')
const busy = ref(false)

async function take(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  if (!file) return
  says.value = good.value = ''
  details.value = []
  if (file.size > MOST) {
    says.value = `${file.name} has ${Math.round(file.size / 1048576)} MB; at most 24 MB are taken. Nothing was stored.`
    return
  }
  busy.value = true
  try {
    const name = file.name.toLowerCase().endsWith('.csv') ? 'importRegister' : 'importBundle'
    const { added, already } = await call(name, { file })
    good.value = [
      added.length ? `Added: ${added.join(', ')}.` : '',
      already.length ? `Already here, unchanged: ${already.join(', ')}.` : '',
    ]
      .filter(Boolean)
      .join(' ')
    emit('done')
  } catch (error) {
    const problem = error as ApiProblem
    says.value = problem.message
    details.value = problem.fields
  } finally {
    busy.value = false
    input.value = ''
  }
}
</script>

<template>
  <v-dialog v-model="open" aria-label="Import">
    <v-card class="pa-6">
      <h2>Import</h2>
      <p class="mt-2">
        A loop’s folder (.json, as exported here), or a register (.csv with the columns tag, service, area, kind;
        UTF-8).
      </p>
      <p class="quiet">
        A list of instruments with columns of its own, XLSX or CSV:
        <router-link to="/bring-in" class="link">bring the plant in</router-link>.
      </p>
      <label class="file">
        <span>{{ busy ? 'Reading the file' : 'Choose a file' }}</span>
        <input type="file" accept=".json,.csv,application/json,text/csv" :disabled="busy" @change="take" />
      </label>
      <p v-if="good" role="status" class="good">{{ good }}</p>
      <div v-if="says" role="alert" class="bad">
        <p>{{ says }}</p>
        <ul>
          <li v-for="d in details.slice(0, 12)" :key="d.path">{{ d.path }}: {{ d.rule }}</li>
        </ul>
      </div>
      <v-btn class="mt-4" @click="open = false">Close</v-btn>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.file {
  display: block;
  margin: 16px 0;
}
.file span {
  display: block;
  font-size: 14px;
  color: var(--second);
}
input {
  min-height: 48px;
  font: inherit;
  color: var(--ink);
}
input::file-selector-button {
  min-height: 44px;
  margin-right: 12px;
  padding: 0 16px;
  background: none;
  border: 1px solid var(--second);
  border-radius: 4px;
  font: inherit;
  font-weight: 600;
  color: var(--ink);
  cursor: pointer;
}
.good {
  color: var(--action);
}
</style>
