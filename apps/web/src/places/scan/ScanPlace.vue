<script setup lang="ts">
// A label scanned by the camera, or found in a photograph: its folder opens at the stage that is next.
import { readLabel } from '@calm-loop/contract/label'
import { useIntervalFn } from '@vueuse/core'
import { onBeforeUnmount, onMounted, ref, useTemplateRef } from 'vue'
import { useRouter } from 'vue-router'
import { useSession } from '../../stores/session.ts'
import PickFile from '../../widgets/PickFile.vue'
import { codeInFrame, codeInPicture } from './decode.ts'
import { FAULT_WORDS, NOTHING_FOUND, UNKNOWN_HERE } from './label-words.ts'

const LOOK_ms = 150
const router = useRouter()
const session = useSession()
const video = useTemplateRef<HTMLVideoElement>('video')
const canvas = document.createElement('canvas')
const says = ref('')
const camera = ref<'asked' | 'here' | 'none'>('asked')
let stream: MediaStream | undefined
let left = false

/** Opens the folder of a label. @returns whether it was one */
function take(code: string): boolean {
  const here = session.session?.installation
  if (!here) {
    says.value = UNKNOWN_HERE
    return false
  }
  const read = readLabel(code, here)
  if ('fault' in read) {
    says.value = FAULT_WORDS[read.fault]
    return false
  }
  void router.push(`/loops/${read.loopId}/next`)
  return true
}
const looking = useIntervalFn(
  () => {
    if (!video.value || video.value.readyState < video.value.HAVE_CURRENT_DATA) return
    const code = codeInFrame(video.value, canvas)
    if (code !== undefined && take(code)) looking.pause()
  },
  LOOK_ms,
  { immediate: false },
)
const close = () => stream?.getTracks().forEach((track) => track.stop())
onMounted(async () => {
  try {
    // Absent where the page came over plain http from another machine.
    stream = await navigator.mediaDevices.getUserMedia({ video: { facingMode: 'environment' }, audio: false })
    if (left || !video.value) return close()
    video.value.srcObject = stream
    await video.value.play()
    camera.value = 'here'
    looking.resume()
  } catch {
    camera.value = 'none'
  }
})
onBeforeUnmount(() => {
  left = true
  close()
})
async function look(file: File): Promise<void> {
  says.value = ''
  try {
    const code = await codeInPicture(file)
    if (code === undefined) says.value = NOTHING_FOUND
    else take(code)
  } catch {
    says.value = 'This file is no picture that this browser reads.'
  }
}
</script>

<template>
  <div class="place-head"><h1>Scan a label</h1></div>
  <p class="lead quiet">
    Hold the camera over the code. The folder opens at the stage that is next; without the server too, where the loop is
    taken along.
  </p>
  <div class="camera" :class="{ none: camera === 'none' }">
    <video ref="video" muted playsinline aria-label="What the camera sees"></video>
    <svg v-if="camera !== 'none'" viewBox="0 0 100 100" aria-hidden="true" class="corners">
      <path d="M4 20V4H20M80 4H96V20M96 80V96H80M20 96H4V80" />
    </svg>
    <p v-else data-test="no-camera">
      No camera can be used here: there is none, it was not allowed, or the page came without https. A photograph of the
      label does as well.
    </p>
  </div>
  <p v-if="says" class="bad" role="alert">{{ says }}</p>
  <div class="do">
    <a v-if="session.session?.demo" href="/api/labels.pdf" class="link" target="_blank">
      A sheet of labels of the demo plant, to try it with
    </a>
    <PickFile label="Find it in a photograph" accept="image/*" @picked="look" />
  </div>
</template>

<style scoped>
.lead {
  max-width: 62ch;
}
.camera {
  position: relative;
  max-width: 520px;
  aspect-ratio: 1;
  margin: 8px 0 16px;
  background: var(--ink);
}
.camera.none {
  aspect-ratio: auto;
  padding: 24px;
  background: none;
  border: 1px dashed var(--second);
}
.none video {
  display: none;
}
video {
  display: block;
  width: 100%;
  height: 100%;
  object-fit: cover;
}
.corners {
  position: absolute;
  inset: 12%;
  width: 76%;
  fill: none;
  stroke: var(--signal);
  stroke-width: 2;
}
</style>
