<script setup lang="ts">
// The current's path with the target present and absent, drawn for the width it has.
import type { SwitchRun } from '@calm-loop/core/kinds'
import { switchDrawing } from '@calm-loop/drawing'
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { useFolder } from '../stores/folder.ts'
import SceneSvg from '../widgets/SceneSvg.vue'
import { sure } from '@calm-loop/core/sure'

const props = defineProps<{ run: SwitchRun; output: string }>()
const folder = useFolder()
const box = ref<HTMLElement>()
const { width } = useElementSize(box)
const text = (key: string) => folder.entries[key]?.typed
const scene = computed(() =>
  props.run.lanes
    ? switchDrawing(
        props.run,
        {
          output: props.output,
          ...(text('meansTrue') ? { meansTrue: sure(text('meansTrue')) } : {}),
          ...(text('meansFalse') ? { meansFalse: sure(text('meansFalse')) } : {}),
        },
        Math.max(500, Math.round(width.value)),
      )
    : undefined,
)
</script>

<template>
  <div ref="box" class="fit">
    <SceneSvg v-if="width > 0 && scene" :scene="scene" />
    <p v-else-if="!scene" class="need">
      {{
        run.needs.length
          ? `The current’s path still needs: ${run.needs.join(', ')}.`
          : 'The path cannot be drawn from these entries; see the findings.'
      }}
    </p>
  </div>
</template>

<style scoped>
.fit {
  min-height: 322px;
  margin-bottom: 14px;
  overflow-x: auto;
}
.need {
  color: var(--look);
  padding-top: 120px;
  text-align: center;
}
</style>
