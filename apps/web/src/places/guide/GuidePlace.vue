<script setup lang="ts">
// Help for whoever is new: one loop end to end at the bench, where what is, and the keys and words that help anywhere.
import { FIRST_DAY } from './first-day.ts'

const PLACES = [
  [
    '/round',
    'Round',
    'Where to go today, what to bring, whom to tell. The weeks ahead and the end of the shift stand there too.',
  ],
  [
    '/loops',
    'Loops',
    'Every loop with its state. Press a tag and its folder opens: entries, wiring, trims, checks, papers.',
  ],
  ['/watch', 'Watch', 'Switches and counts, as they are now.'],
  ['/link', 'Link', 'Speaking with a real device over its own line.'],
  [
    '/kit',
    'Kit',
    'Meters and gauges: their calibrations, where they are, what they were used for. Electrodes and buffers.',
  ],
  ['/people', 'People', 'Who works here, and may do what.'],
  ['/settings', 'Settings', 'What holds for the whole site: rules, units, working days, walking order.'],
] as const
const KEYS = [
  ['?', 'the keys of the page that is open, and what the stage is for'],
  ['G', 'words of the field, explained'],
  ['/', 'find a tag'],
] as const
</script>

<template>
  <div class="place-head"><h1>Guide</h1></div>
  <section aria-labelledby="first-day" class="part">
    <h2 id="first-day">The first day: one loop, end to end</h2>
    <p class="quiet">Under ten minutes at the bench. Keep this page beside the other, or print it.</p>
    <ol class="days">
      <li v-for="step in FIRST_DAY" :key="step.title" data-test="day-step">
        <h3>{{ step.title }}</h3>
        <p>{{ step.says }}</p>
        <p v-if="step.press">
          Press
          <template v-for="(press, i) in step.press" :key="press"
            ><template v-if="i">, then </template><b data-test="press">{{ press }}</b></template
          >.
        </p>
        <table v-if="step.types">
          <caption class="visually-hidden">
            What to type
          </caption>
          <tbody>
            <tr v-for="t in step.types" :key="t.label" data-test="type">
              <th scope="row">{{ t.label }}</th>
              <td class="figures">{{ t.value }}</td>
            </tr>
          </tbody>
        </table>
        <p v-if="step.then">
          Then press <b data-test="then">{{ step.then }}</b>.
        </p>
        <p v-if="step.keys">
          Keys: <kbd v-for="key in step.keys" :key="key" class="figures" data-test="key">{{ key }}</kbd>
        </p>
      </li>
    </ol>
  </section>
  <section aria-labelledby="places" class="part">
    <h2 id="places">Where what is</h2>
    <dl class="places">
      <template v-for="[to, name, says] in PLACES" :key="to">
        <dt>
          <router-link :to="to" class="link to">{{ name }}</router-link>
        </dt>
        <dd>{{ says }}</dd>
      </template>
    </dl>
  </section>
  <section aria-labelledby="help-keys" class="part">
    <h2 id="help-keys">Help while you work</h2>
    <p>
      Each finding says what, why and what to do; press “Why” beneath it for what people get wrong. Each figure shows
      its working when it is pressed. At the foot of each stage stands what it is for.
    </p>
    <dl class="places">
      <template v-for="[key, says] in KEYS" :key="key">
        <dt>
          <kbd class="figures">{{ key }}</kbd>
        </dt>
        <dd>{{ says }}</dd>
      </template>
    </dl>
    <p class="small quiet">
      Programs find the <router-link to="/interface" class="link to">HTTP interface</router-link> described by itself.
    </p>
  </section>
</template>

<style scoped>
.part {
  max-width: 820px;
  margin-top: 24px;
}
.days {
  padding-left: 28px;
}
.days > li {
  padding: 8px 0 16px;
  border-bottom: 1px solid var(--hairline);
}
.days > li::marker {
  color: var(--action);
  font-weight: 700;
}
table {
  border-collapse: collapse;
  margin: 4px 0 8px;
}
th {
  text-align: left;
  font-weight: 400;
  color: var(--second);
  padding: 2px 24px 2px 0;
}
kbd {
  border-bottom: 2px solid var(--action);
  padding: 0 8px;
  margin-right: 8px;
}
.places {
  display: grid;
  grid-template-columns: minmax(96px, auto) minmax(0, 1fr);
  gap: 0 20px;
  align-items: center;
}
.places dt,
.places dd {
  min-height: 44px;
  margin: 0;
  display: flex;
  align-items: center;
}
.to {
  display: inline-flex;
  align-items: center;
}
</style>
