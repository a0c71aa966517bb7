<script setup lang="ts">
// A new loop: tag, service, area and kind; everything else is entered stage by stage in its folder.
import { Tag } from '@calm-loop/contract'
import { KINDS, kindOf, settledEntries, spokenKey, UNIT_SYSTEMS, type Entries } from '@calm-loop/core/kinds'
import type { SpokenClass } from '@calm-loop/core/quantity'
import { v7 as uuid } from 'uuid'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { call, isAway, type ApiProblem } from '../../api/client.ts'
import { useRegister } from '../../stores/register.ts'
import { useSite } from '../../stores/site.ts'
import { beginLoopHere } from '../../stores/begin-loop.ts'
import WordsField from '../../widgets/WordsField.vue'
import { sure } from '@calm-loop/core/sure'

const router = useRouter()
const register = useRegister()
const site = useSite()
/** Made once, so that creating it twice creates it once. */
const id = uuid()
const version = uuid()
const tag = ref('')
const service = ref('')
const area = ref('')
const kind = ref(sure(KINDS[0]).id)
const says = ref('')
const busy = ref(false)
if (!register.areas.length) void register.load()

const tagProblem = computed(() => {
  if (!tag.value.trim()) return ''
  const parsed = Tag.safeParse(tag.value.toUpperCase())
  return parsed.success ? '' : `${sure(parsed.error.issues[0]).message}.`
})
const ready = computed(() => tag.value.trim() && !tagProblem.value && service.value.trim() && area.value.trim())

/** What the site has settled, as entries: a loop begins with them. */
async function siteEntries(): Promise<Entries> {
  await Promise.all([site.loadUnits(), site.loadPractice()])
  return { ...unitEntries(), ...settledEntries(kindOf(kind.value), site.practice) }
}
/** The site's units; none where they are metric. */
function unitEntries(): Entries {
  const { units, chosen } = site.units
  if (units === UNIT_SYSTEMS[0]) return {}
  const own = Object.entries(chosen).map(([of, unit]) => [spokenKey(of as SpokenClass), { typed: unit }])
  return { units: { typed: units }, ...(Object.fromEntries(own) as Entries) }
}
async function create(): Promise<void> {
  busy.value = true
  says.value = ''
  const [name, where] = [tag.value.trim().toUpperCase(), area.value.trim()]
  const identity = { tag: name, service: service.value.trim(), area: where, kind: kind.value }
  try {
    const entries = await siteEntries()
    try {
      await call('createLoop', { params: { loopId: id }, body: identity })
      const body = { parentId: null, parentRevision: null, revision: 0, entries, reason: '', seal: false }
      if (Object.keys(entries).length) await call('saveVersion', { params: { loopId: id, versionId: version }, body })
    } catch (error) {
      if (!isAway(error as ApiProblem)) throw error
      await beginLoopHere(id, identity, entries)
    }
    await router.push(`/loops/${id}/identify`)
  } catch (error) {
    says.value = (error as ApiProblem).message
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <form class="new" @submit.prevent="create">
    <h1>New loop</h1>
    <p class="quiet">
      Four things to begin with. The rest is entered stage by stage, in any order, and is saved as you type.
    </p>
    <fieldset>
      <legend class="small quiet">What is measured, and how</legend>
      <label v-for="k in KINDS" :key="k.id" class="kind" :class="{ chosen: kind === k.id }">
        <input v-model="kind" type="radio" name="kind" :value="k.id" />
        <span
          ><b>{{ k.name }}</b
          ><br /><span class="quiet">{{ k.summary }}</span></span
        >
      </label>
    </fieldset>
    <div class="row">
      <WordsField
        label="Tag"
        :value="tag"
        needed
        :says="tagProblem"
        help="As on the loop sheet, such as LT-112."
        @typed="tag = $event"
      />
      <WordsField
        label="Service"
        :value="service"
        needed
        help="What it measures, in the operator’s words."
        @typed="service = $event"
      />
      <WordsField
        label="Area"
        :value="area"
        needed
        :help="register.areas.length ? `Here already: ${register.areas.slice(0, 5).join(', ')}.` : 'Part of the plant.'"
        @typed="area = $event"
      />
    </div>
    <p v-if="says" class="bad" role="alert">{{ says }}</p>
    <v-btn type="submit" color="primary" variant="flat" :disabled="!ready" :loading="busy">Create this loop</v-btn>
  </form>
</template>

<style scoped>
.new {
  max-width: 860px;
}
h1 {
  margin: 12px 0 4px;
}
fieldset {
  border: 0;
  padding: 0;
  margin: 16px 0 24px;
}
.kind {
  display: flex;
  gap: 16px;
  align-items: center;
  min-height: 72px;
  border-bottom: 1px solid var(--hairline);
  padding: 8px 4px;
  cursor: pointer;
}
.kind.chosen {
  border-bottom: 2px solid var(--action);
}
.kind input {
  width: 24px;
  height: 24px;
  accent-color: var(--action);
}
.row {
  display: grid;
  grid-template-columns: 1fr 2fr 1fr;
  gap: 24px;
  margin-bottom: 16px;
}
@media (max-width: 700px) {
  .row {
    grid-template-columns: 1fr;
    gap: 8px;
  }
}
</style>
