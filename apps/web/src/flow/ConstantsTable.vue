<script setup lang="ts">
// The sensor's constants: letters and digits as printed on the tag, those of the certificate, and what the transmitter
// holds, digit under digit.
import { compareDigits } from '@calm-loop/core/flow'
import { certificateKey, CONSTANTS, lettersKey, tagKey } from '@calm-loop/core/kinds'
import { computed } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { useSession } from '../stores/session.ts'
import WordsField from '../widgets/WordsField.vue'
import { useGate } from './useGate.ts'
import { useHeld } from './useHeld.ts'

const folder = useFolder()
const session = useSession()
const { live, command } = useHeld()
const gate = useGate('re-entry')
const lost = (got: string | undefined) => !got
const typed = (key: string) => folder.entries[key]?.typed ?? ''
const held = computed(() => live.held?.held)
const rows = computed(() =>
  CONSTANTS.map((c) => {
    const [tag, cert] = [typed(tagKey(c.key)), typed(certificateKey(c.key))]
    const got = held.value?.[c.key]
    const against = (other: string | undefined) => (tag && other ? compareDigits(tag, other) : undefined)
    return { ...c, tag, cert, got, certDigits: against(cert), gotDigits: against(got) }
  }),
)
const set = (key: string, text: string) => folder.set(key, { typed: text })
const words = (d: ReturnType<typeof compareDigits> | undefined, other: string | undefined, unread: string) =>
  other === undefined
    ? unread
    : other === ''
      ? 'nothing'
      : !d
        ? ''
        : d.same
          ? 'same'
          : d.equalValue
            ? 'same value'
            : 'differs'
</script>

<template>
  <section aria-label="Constants">
    <fieldset :disabled="!session.has('technician')">
      <legend class="visually-hidden">Constants of the sensor</legend>
      <article v-for="row in rows" :key="row.key" :data-constant="row.key">
        <h4>
          {{ row.label }} <span class="quiet small">{{ row.unit }}</span>
        </h4>
        <div class="fields">
          <WordsField
            label="Letters on your tag"
            :value="typed(lettersKey(row.key))"
            @typed="set(lettersKey(row.key), $event)"
          />
          <WordsField
            label="As printed on your tag"
            :value="row.tag"
            :needed="!row.optional"
            @typed="set(tagKey(row.key), $event)"
          />
          <WordsField label="On the certificate" :value="row.cert" @typed="set(certificateKey(row.key), $event)" />
        </div>
        <dl v-if="row.tag" class="digits">
          <div>
            <dt>tag</dt>
            <dd class="figures">
              <template v-if="row.gotDigits ?? row.certDigits"
                ><i v-for="(d, i) in (row.gotDigits ?? row.certDigits)!.columns" :key="i">{{ d.a }}</i></template
              ><template v-else>{{ row.tag }}</template>
            </dd>
          </div>
          <div v-if="row.cert">
            <dt>certificate</dt>
            <dd class="figures">
              <i v-for="(d, i) in row.certDigits?.columns" :key="i" :class="{ off: !d.agrees }">{{ d.b }}</i>
              <span :class="row.certDigits?.same ? 'ok' : 'bad'">{{ words(row.certDigits, row.cert, '') }}</span>
            </dd>
          </div>
          <div>
            <dt>transmitter</dt>
            <dd class="figures">
              <i v-for="(d, i) in row.gotDigits?.columns" :key="i" :class="{ off: !d.agrees }">{{ d.b }}</i>
              <span :class="row.gotDigits?.same ? 'ok' : held ? 'bad' : 'quiet'">{{
                words(row.gotDigits, held ? (row.got ?? '') : undefined, 'not read')
              }}</span>
              <v-btn
                v-if="held && !row.gotDigits?.same"
                :disabled="lost(row.got) && !!gate"
                variant="text"
                @click="command({ do: 'write', values: { [row.key]: row.tag } })"
                >Write the tag’s<span class="visually-hidden"> {{ row.label }}</span></v-btn
              >
            </dd>
          </div>
        </dl>
      </article>
    </fieldset>
    <p v-if="gate && held && rows.some((r) => lost(r.got) && !r.optional)" class="look" data-test="gate-before">
      {{ gate }}
    </p>
    <p v-if="live.problem && folder.practising" class="look">{{ live.problem }}</p>
  </section>
</template>

<style scoped>
fieldset {
  border: 0;
  padding: 0;
  margin: 0;
}
article {
  border-top: 1px solid var(--hairline);
  padding: 8px 0;
}
h4 {
  margin: 0 0 4px;
  font-size: 16px;
}
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(180px, 1fr));
  gap: 4px 24px;
}
.digits {
  margin: 0;
}
.digits div {
  display: grid;
  grid-template-columns: 110px minmax(0, 1fr);
  align-items: center;
  min-height: 28px;
}
dt {
  color: var(--second);
  font-size: 14px;
}
dd {
  margin: 0;
  white-space: pre-wrap;
}
dd i {
  font-style: normal;
  white-space: pre;
}
dd span {
  font-family: var(--words);
  font-size: 14px;
  margin-left: 12px;
}
.off {
  color: var(--stop);
  text-decoration: underline;
  text-decoration-thickness: 3px;
  text-underline-offset: 3px;
}
.ok {
  color: var(--action);
}
</style>
