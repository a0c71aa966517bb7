<script setup lang="ts">
// The drawing at the head of a folder goes away with the page, and leaves one slim line of itself: the work has the
// window.
import { useIntersectionObserver } from '@vueuse/core'
import { ref, useTemplateRef } from 'vue'

export interface SlimKnot {
  readonly id: string
  readonly name: string
  readonly expected: string
  /** Short, as the figure stands in a narrow column. */
  readonly unit?: string
  readonly read?: string | undefined
  /** Where read parts from expected before this knot: by how much. */
  readonly parted?: string | undefined
}
defineProps<{ knots: readonly SlimKnot[]; what: string; simulated: boolean }>()
/** Under the top line, as high as the slim line: it covers what is left of the drawing. */
const COVERED_px = 56 + 88
const whole = useTemplateRef('whole')
const past = ref(false)
useIntersectionObserver(
  whole,
  ([seen]) => (past.value = !!seen && !seen.isIntersecting && seen.boundingClientRect.top < 0),
  { rootMargin: `-${COVERED_px}px 0px 0px 0px` },
)
const unfold = () => window.scrollTo({ top: 0 })
</script>

<template>
  <!-- Before the drawing: it stands under the top line as soon as any of that has gone. -->
  <div class="fold">
    <div v-show="past" class="slim" :class="{ simulated }" data-test="folded">
      <div class="head">
        <button type="button" class="open" @click="unfold">{{ what }}</button>
        <span v-if="simulated" class="practice">simulated</span>
      </div>
      <ol class="knots" aria-hidden="true">
        <li v-for="(k, i) in knots" :key="k.id" :class="{ parted: k.parted, first: i === 0 }">
          <span v-if="k.parted" class="words figures">{{ k.parted }}</span>
          <svg width="16" height="16">
            <circle cx="8" cy="8" r="5.6" class="ring" />
            <circle v-if="k.read" cx="8" :cy="k.parted ? 12 : 8" r="3" class="dot" />
          </svg>
          <span class="name" :title="k.name">{{ k.name }}</span>
          <span class="figures figure"
            >{{ k.expected }}<span v-if="k.unit" class="unit"> {{ k.unit }}</span></span
          >
          <span v-if="k.read" class="figures figure read">{{ k.read }}</span>
        </li>
      </ol>
    </div>
  </div>
  <div ref="whole"><slot /></div>
</template>

<style scoped>
.fold {
  position: sticky;
  top: 56px;
  height: 0;
  z-index: 4;
}
.slim {
  position: relative;
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  align-items: center;
  height: 88px;
  background: var(--ground);
  border-bottom: 1px solid var(--hairline);
}
.simulated {
  border-bottom: 2px dashed var(--look);
}
.head {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
}
.practice {
  font-size: 14px;
  color: var(--look);
}
.open {
  min-height: 44px;
  padding: 0 16px 0 0;
  border: 0;
  background: none;
  color: var(--action);
  font: inherit;
  font-weight: 600;
  cursor: pointer;
}
.knots {
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: minmax(0, 1fr);
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  position: relative;
  display: flex;
  flex-direction: column;
  align-items: center;
  min-width: 0;
  padding-top: 14px;
  line-height: 1.15;
}
li svg {
  position: relative;
}
/* The line from the knot before. */
li:not(.first)::before {
  content: '';
  position: absolute;
  top: 22px;
  right: calc(50% + 6px);
  width: calc(100% - 12px);
  border-top: 1.2px solid var(--ink);
}
li.parted::before {
  border-top: 1.6px solid var(--signal);
}
.words {
  position: absolute;
  top: 2px;
  right: 50%;
  width: 100%;
  text-align: center;
  font-size: 14px;
  color: var(--signal);
}
.ring {
  fill: var(--ground);
  stroke: var(--ink);
  stroke-width: 1.8;
}
.dot {
  fill: var(--signal);
}
.name {
  max-width: 100%;
  padding: 0 4px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  font-size: 14px;
  color: var(--second);
}
.figure {
  font-size: 14px;
  white-space: nowrap;
}
.unit {
  margin-left: 0.5ch;
}
.read {
  color: var(--signal);
}
@media (max-width: 1000px) {
  .slim {
    grid-template-columns: minmax(0, 1fr);
  }
  .name {
    display: none;
  }
  /* The whole line unfolds; it is read out and reached by keys as before. */
  .open {
    position: absolute;
    z-index: 1;
    inset: 0;
    padding: 0 16px;
    text-align: left;
    background: var(--ground);
    opacity: 0;
  }
  .open:focus-visible {
    opacity: 1;
  }
  .slim.simulated {
    align-items: start;
    height: 96px;
  }
  .head {
    position: absolute;
    left: 0;
    bottom: 0;
  }
  .figure {
    text-align: center;
  }
  .unit {
    display: block;
    margin: 0;
  }
}
@media (max-width: 640px) {
  .slim {
    overflow-x: auto;
  }
  .knots {
    grid-auto-columns: minmax(92px, 1fr);
  }
}
@media (max-height: 560px) {
  .slim {
    display: none;
  }
}
</style>
