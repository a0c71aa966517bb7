// What ages on the shelf: buffers, couplant, film, gas, batteries. They stand in the kit with a date like any piece,
// and are known by their name.
import type { Piece } from './kit.ts'

/** What is brought, and the word by which a piece of the kit is one of it. */
const STOCKED: Readonly<Record<string, string>> = {
  'buffers in date': 'buffer',
  'couplant or pads': 'couplant',
  'damping film by layers and size': 'film',
  'test gas in date': 'test gas',
  'charged battery': 'battery',
}
export interface Shelf {
  readonly kit: readonly Pick<Piece, 'name' | 'serial' | 'due'>[]
  /** Of the round, YYYY-MM-DD. */
  readonly day: string
  /** A day in words. */
  readonly say: (day: string) => string
}

/** Whether a piece of the kit is something that is used up, and no instrument. */
export const isSupply = ({
  name,
  ranges,
}: Pick<Piece, 'name'> & { readonly ranges?: readonly unknown[] | undefined }) =>
  !ranges?.length && Object.values(STOCKED).some((word) => name.toLowerCase().includes(word))

/** Which of it lies in the kit: what is good on the day, each with its lot and date, and what is past its date. */
export function onShelf(what: string, { kit, day, say }: Shelf): { readonly good: string[]; readonly past: string[] } {
  const word = STOCKED[what]
  const all = word === undefined ? [] : kit.filter((p) => p.name.toLowerCase().includes(word))
  const words = (p: Shelf['kit'][number]) => [p.name, p.serial].filter(Boolean).join(', ')
  return {
    good: all.filter((p) => p.due >= day).map((p) => `${words(p)}, good until ${say(p.due)}`),
    past: all.filter((p) => p.due < day).map((p) => `${words(p)}: was good until ${say(p.due)}`),
  }
}
