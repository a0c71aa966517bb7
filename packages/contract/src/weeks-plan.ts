// The plan of the weeks ahead from what the server told: the same on the page and in a calendar.
import { planWeeks, type WeeksPlan } from '@calm-loop/core/round'
import type { Weeks } from './weeks.ts'

export const planOfWeeks = ({ terms, kit, ...weeks }: Weeks): WeeksPlan =>
  planWeeks({
    ...weeks,
    ...{ terms, shutdowns: terms.shutdowns },
    kit: kit.map(({ move, ...piece }) => ({ ...piece, holder: move?.holder?.name ?? null })),
  })
