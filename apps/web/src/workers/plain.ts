import { toRaw } from 'vue'

/** A copy that can be handed to a worker: without what makes it follow changes. */
export const plain = <T>(value: T): T => JSON.parse(JSON.stringify(toRaw(value))) as T
