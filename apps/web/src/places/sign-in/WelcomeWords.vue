<script setup lang="ts">
// What Calm Loop is about, drawn: what is expected, what is read, and the point at which they part.
</script>

<template>
  <section class="words">
    <svg viewBox="0 0 520 150" class="thread" aria-hidden="true">
      <path d="M20 96C90 96 90 40 160 52S250 100 300 84 380 44 430 60 480 66 500 66" class="ink" />
      <path d="M160 52C230 66 250 100 300 84S380 62 430 78 480 84 500 84" class="signal" />
      <circle
        v-for="[x, y] in [
          [20, 96],
          [160, 52],
          [300, 84],
          [430, 60],
          [500, 66],
        ]"
        :key="x"
        :cx="x"
        :cy="y"
        r="8"
        class="ring"
      />
      <circle
        v-for="[x, y] in [
          [160, 52],
          [300, 84],
          [430, 78],
          [500, 84],
        ]"
        :key="`d${x}`"
        :cx="x"
        :cy="y"
        r="4.4"
        class="dot"
      />
    </svg>
    <h1>Calm Loop</h1>
    <p class="quiet lead">
      One line from the process to the screen the operator trusts. Where expected and read part, there is the fault.
    </p>
  </section>
</template>

<style scoped>
h1 {
  font-size: 44px;
  margin: 8px 0;
}
.lead {
  font-size: 20px;
  max-width: 26em;
}
.thread {
  width: 100%;
  max-width: 520px;
}
.ink {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.6;
}
.signal {
  fill: none;
  stroke: var(--signal);
  stroke-width: 2;
}
.ring {
  fill: var(--ground);
  stroke: var(--ink);
  stroke-width: 2;
}
.dot {
  fill: var(--signal);
}
@media (max-width: 900px) {
  .thread {
    max-width: 360px;
  }
}
</style>
