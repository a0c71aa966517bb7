<script setup lang="ts">
// What is to be keyed against what the meter holds, line by line and digit by digit; writing a line, and putting the
// read-back on record.
import { workOf } from '@calm-loop/contract'
import { compareDigits, heldAgrees } from '@calm-loop/core/flow'
import { computed, ref } from 'vue'
import { addressOf } from '../api/client.ts'
import { useFolder } from '../stores/folder.ts'
import { useSession } from '../stores/session.ts'
import { useWork } from '../stores/work.ts'
import { moment } from '../widgets/dates.ts'
import { useHeld } from './useHeld.ts'
import { inSentence } from '@calm-loop/core/words'
import { sure } from '@calm-loop/core/sure'

const folder = useFolder()
const session = useSession()
const work = useWork()
const { live, command } = useHeld()
const lines = computed(() => folder.current?.setup?.() ?? [])
/** What the real device shows, as it is typed; at the bench what the simulated one holds. */
const typed = ref<Readonly<Record<string, string>>>({})
/** The bench has no machine of its own for every kind: what it does not hold is typed. */
const byHand = computed(() => !folder.practising || (folder.kind?.family === 'current' && !folder.kind.has.meter))
const held = computed(() => (byHand.value ? typed.value : live.held?.held))
const rows = computed(() =>
  lines.value.map((line) => {
    const got = held.value?.[line.key]?.trim()
    const state =
      held.value === undefined
        ? 'unknown'
        : got === undefined || got === ''
          ? byHand.value
            ? 'unread'
            : 'lost'
          : heldAgrees(line.text, got)
            ? 'same'
            : 'differs'
    return {
      line,
      got: got ?? '',
      state,
      digits: state === 'differs' && /\d/.test(line.text) ? compareDigits(line.text, sure(got)) : undefined,
    }
  }),
)
const wrong = computed(() => rows.value.filter((r) => (r.state === 'lost' || r.state === 'differs') && r.line.text))
const lost = computed(() => wrong.value.filter((r) => r.state === 'lost'))
const unread = computed(() => rows.value.filter((r) => r.state === 'unread' && r.line.text))
const write = (keys: readonly string[]) =>
  command({
    do: 'write',
    values: Object.fromEntries(
      rows.value.filter((r) => keys.includes(r.line.key) && r.line.text).map((r) => [r.line.key, r.line.text]),
    ),
  })
const last = computed(() => workOf(work.log, 'read-back').at(-1))
async function keep(): Promise<void> {
  await work.add({
    what: 'read-back',
    // A line that nobody read is not one that holds nothing.
    lines: rows.value
      .filter(({ line, state }) => state !== 'unread' || !line.text)
      .map(({ line, got }) => ({ key: line.key, label: line.label, text: line.text, held: got })),
  })
}
</script>

<template>
  <section aria-label="Set up and read back">
    <p>
      Key in from top to bottom, then read back what the meter holds.
      <b>Nothing is done until it has been read back.</b>
      <a
        :href="addressOf('setupPdf', { loopId: folder.view!.loop.id })"
        target="_blank"
        class="link"
        data-test="setup-sheet"
        >Set-up sheet to print</a
      >
    </p>
    <p v-if="byHand && session.has('technician')" class="quiet small">
      Type what the device itself shows, line by line; nothing is taken over from the entries.
    </p>
    <p v-if="live.problem && !byHand" class="look">{{ live.problem }}</p>
    <template v-else-if="held">
      <p v-if="unread.length" class="look" role="status" data-test="unread">
        {{ unread.length }} of {{ rows.length }} lines are not read back yet.
      </p>
      <p v-else-if="!wrong.length" class="ok" role="status" data-test="read-back-verdict">
        The meter holds every line as entered.
      </p>
      <p v-else class="bad" role="status" data-test="read-back-verdict">
        {{ wrong.length }} of {{ rows.length }} lines are not as entered<template v-if="lost.length"
          >; {{ lost.length }} were lost and must be entered again:
          {{ lost.map((l) => inSentence(l.line.label)).join('; ') }}</template
        >.
      </p>
    </template>
    <div class="wide">
      <v-table>
        <thead>
          <tr>
            <th scope="col">What</th>
            <th scope="col">To be keyed</th>
            <th scope="col">The meter holds</th>
            <th scope="col"><span class="visually-hidden">Write</span></th>
          </tr>
        </thead>
        <tbody>
          <template v-for="(row, i) in rows" :key="row.line.key">
            <tr v-if="row.line.group !== rows[i - 1]?.line.group" class="group">
              <th colspan="4" scope="colgroup">{{ row.line.group }}</th>
            </tr>
            <tr :class="row.state" :data-line="row.line.key">
              <th scope="row">{{ row.line.label }}</th>
              <td class="figures">
                <template v-if="!row.line.text"><span class="lacking">still to be entered</span></template>
                <span v-else-if="row.digits" class="digits"
                  ><i v-for="(d, n) in row.digits.columns" :key="n" :class="{ off: !d.agrees }">{{ d.a }}</i></span
                >
                <template v-else>{{ row.line.text }}</template>
              </td>
              <td class="figures">
                <input
                  v-if="byHand && session.has('technician')"
                  class="typed figures"
                  :aria-label="`${row.line.label}: the device shows`"
                  maxlength="200"
                  :value="typed[row.line.key] ?? ''"
                  @input="typed = { ...typed, [row.line.key]: ($event.target as HTMLInputElement).value }"
                />
                <span v-else-if="row.state === 'lost'" class="bad">nothing</span>
                <span v-else-if="row.digits" class="digits"
                  ><i v-for="(d, n) in row.digits.columns" :key="n" :class="{ off: !d.agrees }">{{ d.b }}</i></span
                >
                <template v-else>{{ row.got || 'not read' }}</template>
              </td>
              <td class="end">
                <v-btn
                  v-if="
                    !byHand &&
                    (row.state === 'lost' || row.state === 'differs') &&
                    row.line.text &&
                    session.has('technician')
                  "
                  variant="text"
                  @click="write([row.line.key])"
                  >Write<span class="visually-hidden"> {{ row.line.label }}</span></v-btn
                >
                <span v-else-if="row.state === 'same'" class="ok">same</span>
                <span v-else-if="byHand && row.state === 'differs'" class="bad">differs</span>
              </td>
            </tr>
          </template>
        </tbody>
      </v-table>
    </div>
    <div v-if="session.has('technician') && held" class="do">
      <v-btn v-if="wrong.length && !byHand" data-test="write-all" @click="write(wrong.map((w) => w.line.key))"
        >Write the {{ wrong.length }} lines</v-btn
      >
      <v-btn
        color="primary"
        variant="flat"
        :disabled="work.busy || (byHand && !Object.values(typed).some((t) => t.trim()))"
        data-test="keep-read-back"
        @click="keep"
        >Put the read-back on record</v-btn
      >
      <span v-if="last" class="quiet small">Last on record {{ moment(last.at) }}, {{ last.by.name }}.</span>
    </div>
    <p v-if="work.problem" class="bad" role="alert">{{ work.problem }}</p>
  </section>
</template>

<style scoped>
p .link {
  margin-left: 8px;
}
.wide {
  overflow-x: auto;
}
th,
td {
  text-align: left;
  font-weight: 400;
  padding: 6px 16px 6px 0;
  border-bottom: 1px solid var(--hairline);
  height: 44px;
}
thead th {
  color: var(--second);
  font-size: 14px;
}
.group th {
  font-weight: 650;
  padding-top: 16px;
}
.typed {
  width: 100%;
  min-width: 120px;
  min-height: 44px;
  padding: 4px 0;
  background: none;
  border: 0;
  border-bottom: 1px solid var(--second);
  color: inherit;
  font-size: 17px;
}
.digits {
  white-space: pre;
}
.digits i {
  font-style: normal;
  display: inline-block;
  min-width: 0.62em;
}
.digits .off {
  color: var(--stop);
  text-decoration: underline;
  text-decoration-thickness: 3px;
  text-underline-offset: 3px;
}
.ok {
  color: var(--action);
}
.lacking {
  color: var(--look);
}
.end {
  text-align: right;
}
.do {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 24px;
  align-items: center;
  margin-top: 16px;
}
</style>
