// The application as this browser keeps it: opened without the server, and renewed when somebody says so.
import { defineStore } from 'pinia'
import { ref } from 'vue'

const LOOK_AGAIN_ms = 3_600_000

export const useShell = defineStore('shell', () => {
  /** A newer version has been fetched and waits to be taken. */
  const newer = ref(false)
  /** It was taken in another tab: what this page has not loaded yet may be gone. */
  const behind = ref(false)
  let renew: () => void = () => location.reload()

  async function start(): Promise<void> {
    // A part that is not there any more: this page is of an older version.
    window.addEventListener('vite:preloadError', () => (behind.value = navigator.onLine))
    if (!('serviceWorker' in navigator) || !import.meta.env.PROD) return
    const { Workbox } = await import('workbox-window')
    const worker = new Workbox('/sw.js')
    let asked = false
    worker.addEventListener('waiting', () => (newer.value = true))
    worker.addEventListener('controlling', ({ isUpdate }) => {
      if (asked) location.reload()
      else if (isUpdate) behind.value = true
    })
    renew = () => {
      asked = true
      if (newer.value) worker.messageSkipWaiting()
      else location.reload()
    }
    // Where the browser refuses, the page works as it does without it: with the server.
    await worker.register().catch(() => undefined)
    setInterval(() => void worker.update().catch(() => undefined), LOOK_AGAIN_ms)
  }
  /** Takes the newer version: this page, and no other, is loaded anew. */
  const take = () => renew()
  return { newer, behind, start, take }
})
