// The site's rules of judging: acceptance, how much better than the tolerance the kit must be, and intervals.
import { CONFORMITY_RULES } from '@calm-loop/core/check'
import { isSettled, UNIT_SYSTEMS } from '@calm-loop/core/kinds'
import { SPOKEN_CLASSES, type SpokenClass } from '@calm-loop/core/quantity'
import { FAULT_KINDS, type FaultKind } from '@calm-loop/core/wiring'
import { z } from 'zod'
import { line } from './primitives.ts'

const SPOKEN = Object.keys(SPOKEN_CLASSES) as [SpokenClass, ...SpokenClass[]]

export const SiteJudging = z
  .strictObject({
    /** Simple acceptance, or with a guard band of twice the standard uncertainty. */
    rule: z.enum(CONFORMITY_RULES),
    /** Kit proves a tolerance that is at least so many times its expanded uncertainty. */
    leastRatio: z.number().min(1).max(20),
    /** Days between two checks, at least and at most. */
    minInterval_days: z.number().int().min(1).max(3650),
    maxInterval_days: z.number().int().min(1).max(3650),
  })
  .refine((j) => j.minInterval_days <= j.maxInterval_days, 'the longest interval is not the shorter one')
export type SiteJudging = z.infer<typeof SiteJudging>
export const USUAL_JUDGING: SiteJudging = {
  rule: 'simple',
  leastRatio: 4,
  minInterval_days: 30,
  maxInterval_days: 1825,
}

/** Whose papers these are: printed at the head of every certificate and report. */
export const SiteHead = z.strictObject({
  name: line(120),
  /** Address, or the part of the plant. */
  address: line(200),
  /** By which procedure checks are done here. */
  procedure: line(120),
})
export type SiteHead = z.infer<typeof SiteHead>
export const NO_HEAD: SiteHead = { name: '', address: '', procedure: '' }

/** The units that a new loop begins in; from then on each has its own. */
export const SiteUnits = z.strictObject({
  units: z.enum(UNIT_SYSTEMS),
  chosen: z
    .partialRecord(z.enum(SPOKEN), z.string().max(12))
    .refine(
      (chosen) =>
        Object.entries(chosen).every(([of, unit]) =>
          (SPOKEN_CLASSES[of as SpokenClass].units as readonly string[]).includes(unit),
        ),
      'a unit of another quantity',
    ),
})
export type SiteUnits = z.infer<typeof SiteUnits>
export const METRIC_UNITS: SiteUnits = { units: 'metric', chosen: {} }

export const DECIMAL_MARKS = ['.', ','] as const
export const DecimalMark = z.enum(DECIMAL_MARKS)
export type DecimalMark = z.infer<typeof DecimalMark>
const option = z.string().max(60)
/** What this site settles where schools of practice differ, and how often each kind is checked: new loops begin so. */
export const SitePractice = z
  .strictObject({
    /** By key of the entry. */
    schools: z.record(z.string().max(40), option),
    /** By id of the kind. */
    intervals: z.record(z.string().max(40), option),
    /** On papers, and on the page of who has chosen none. */
    decimalMark: DecimalMark,
  })
  .refine(isSettled, 'no practice, or none of its ways')
export type SitePractice = z.infer<typeof SitePractice>
export const USUAL_PRACTICE: SitePractice = { schools: {}, intervals: {}, decimalMark: '.' }

/** A logo as it is printed, a PNG as a data address; null where the site has none. */
export const SiteLogo = z.strictObject({ logo: z.string().nullable() })
export type SiteLogo = z.infer<typeof SiteLogo>
export const LOGO_BYTES = 5_000_000

/** How often each kind of fault is met at this site, as a weight against the others; 1 is usual. */
export const FaultPriors = z.strictObject(
  Object.fromEntries(FAULT_KINDS.map((kind) => [kind, z.number().min(0.01).max(100)])) as Record<
    FaultKind,
    z.ZodNumber
  >,
)
export type FaultPriors = z.infer<typeof FaultPriors>
