// Dates and times as people here write them: 12 Mar 2027, 14:02, in this device's own time.

const day = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric' })
const time = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit', hour12: false })

/** `12 Mar 2027`; a bare date is that day everywhere. */
export function dayWords(date: string): string {
  const words = day.format(new Date(date.length === 10 ? `${date}T12:00:00` : date))
  return words.replace('Sept', 'Sep')
}
/** `12 Mar` */
export const dayInYear = (date: string): string => dayWords(date).replace(/ \d{4}$/, '')
/** `14:02` */
export const clock = (instant: string): string => time.format(new Date(instant))
/** `12 Mar 2027, 14:02` */
export const moment = (instant: string): string => `${dayWords(instant)}, ${clock(instant)}`
/** A date as a field of the browser gives it, once it is whole. */
export const isDay = (text: unknown): text is string => typeof text === 'string' && /^\d{4}-\d\d-\d\d$/.test(text)
/** Today as `2027-03-12`, in this device's own time. */
export function today(): string {
  const now = new Date()
  return `${now.getFullYear()}-${String(now.getMonth() + 1).padStart(2, '0')}-${String(now.getDate()).padStart(2, '0')}`
}

/** When something was done; and when it was sent, where that was later or is still to come. */
export const whenDone = ({ at, doneAt }: { at: string; doneAt?: string | undefined }, waits: boolean): string =>
  waits ? `${moment(at)}; waits to be sent` : doneAt ? `${moment(doneAt)}; sent ${moment(at)}` : moment(at)
