// What stands in the code of a label: which installation, which loop, and a check over both.
import { settingMark } from './setting-mark.ts'

const HEAD = 'CALM-LOOP:1'
const SIGNS_OF_INSTALLATION = 12
const SIGNS_OF_CHECK = 4
const bare = (id: string) => id.replaceAll('-', '').toUpperCase()
const checkOf = (body: string) => settingMark(body).slice(0, SIGNS_OF_CHECK).toUpperCase()

/**
 * The text of a label’s code, of capitals, figures and colons only, so that the code stays small (ISO/IEC 18004,
 * alphanumeric mode).
 * @param installation id of the installation, a UUID @param loopId id of the loop, a UUID
 */
export function labelText(installation: string, loopId: string): string {
  const body = [HEAD, bare(installation).slice(0, SIGNS_OF_INSTALLATION), bare(loopId)].join(':')
  return `${body}:${checkOf(body)}`
}

export const LABEL_FAULTS = ['no-label', 'damaged', 'newer', 'elsewhere'] as const
export type LabelFault = (typeof LABEL_FAULTS)[number]
export type ReadLabel = { readonly loopId: string } | { readonly fault: LabelFault }

/** What a scanned code says: the loop, where it is a label of this installation, or why it is none. */
export function readLabel(text: string, installation: string): ReadLabel {
  const scanned = text.trim().toUpperCase()
  if (!scanned.startsWith('CALM-LOOP')) return { fault: 'no-label' }
  const said = /^CALM-LOOP:(\d+):([0-9A-F]+):([0-9A-F]+):([0-9A-F]+)$/.exec(scanned)
  const [, version = '', of = '', loop = '', check = ''] = said ?? []
  if (said && version !== '1') return { fault: 'newer' }
  if (!said || checkOf(scanned.slice(0, -check.length - 1)) !== check || loop.length !== 32) return { fault: 'damaged' }
  if (of !== bare(installation).slice(0, SIGNS_OF_INSTALLATION)) return { fault: 'elsewhere' }
  const id = loop.toLowerCase()
  return { loopId: [id.slice(0, 8), id.slice(8, 12), id.slice(12, 16), id.slice(16, 20), id.slice(20)].join('-') }
}
