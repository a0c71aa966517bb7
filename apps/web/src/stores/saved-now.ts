// What a check or a run is begun by: the entries as they are saved, never what is only typed.
import { until } from '@vueuse/core'
import { sure } from '@calm-loop/core/sure'
import { useFolder } from './folder.ts'

const SAVED_WITHIN_ms = 10_000

/**
 * Waits for what was typed a moment ago and is on its way.
 * @throws Error with `why` where it is not saved
 */
export async function savedNow(why: string): Promise<{ version: string; revision: number }> {
  const folder = useFolder()
  await until(() => folder.status).not.toBe('saving', { timeout: SAVED_WITHIN_ms })
  if (!(await folder.save())) throw new Error(why)
  const { id, revision } = sure(folder.base)
  return { version: id, revision }
}
