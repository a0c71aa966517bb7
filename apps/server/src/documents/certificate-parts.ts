// Parts that every certificate has: title and verdict, signatures so far, equipment, corrections, who confirmed and
// signed.
import type { PaperPicture } from './photographs.ts'
import type { Check, FolderView, GearUsed, Reading, Signature } from '@calm-loop/contract'
import {
  certificateNumber,
  fitnessOf,
  fitWord,
  isPractice,
  measuredSince,
  newestFingerprint,
  PRACTICE,
  standingByPoint,
  standOfCheck,
} from '@calm-loop/contract/judging'
import { verdictIn } from '../services/summary-of.ts'
import {
  day,
  figure,
  GOOD,
  heading,
  INK,
  LOOK,
  pairs,
  SECOND,
  STOP,
  text,
  when,
  type Node,
  type PaperHead,
} from './page.ts'

export const WIDTH = 515
/** Drawings are made larger than they are printed, so that their letters match the text. */
export const DRAWN = 680

function gearRows(gear: readonly GearUsed[], on: string): Node[] {
  if (!gear.length) return [text('No test equipment was named.', { fontSize: 9, color: SECOND })]
  return [
    pairs(
      gear.map(
        (g) =>
          [
            g.name,
            `serial ${g.serial}; ` +
              (g.certificate
                ? `certificate ${g.certificate}${g.calibrated ? ` of ${day(g.calibrated)}` : ''} (traceable by it); `
                : 'no certificate entered; ') +
              `uncertainty ${g.uncertainty || (g.ranges?.length ? 'by its figures' : 'not stated')}; ` +
              `due ${day(g.due)}` +
              (g.due < on ? ' — EXPIRED when used' : '') +
              (g.expiredReason ? `: ${g.expiredReason}` : ''),
          ] as const,
      ),
    ),
  ]
}

/** Test equipment with its certificates, as it stood on the day. */
export const gearUsed = (gear: readonly GearUsed[], on: string): Node => ({
  stack: [heading('Test equipment'), ...gearRows(gear, on)],
  unbreakable: true,
})

export interface Paper {
  /** Where the application is reached, for the code that leads to its page of verification. */
  readonly address: string
  readonly site?: PaperHead | undefined
  readonly pictures?: readonly PaperPicture[] | undefined
}

export const SEAL_BROKEN: Node = text('SEAL BROKEN: what was signed is not what stands here. This is no certificate.', {
  ...{ bold: true, fontSize: 13, color: STOP, margin: [0, 0, 0, 4] },
})

/** What a reader must know before anything else: a broken seal, or a check that came from elsewhere. */
function standingRows(check: Check): Node[] {
  if (isPractice(check)) return [text(PRACTICE, { bold: true, fontSize: 13, color: LOOK, margin: [0, 0, 0, 4] })]
  const stand = standOfCheck(check)
  if (stand === 'broken') return [SEAL_BROKEN]
  if (!check.imported) return []
  const accepted = check.signatures.find((s) => s.role === 'accepted' && s.standing === 'sealed')
  return [
    text(
      `Made elsewhere, brought in on ${day(check.imported.at)}` +
        `${check.imported.by ? ` by ${check.imported.by.name}` : ''}. ` +
        (accepted
          ? `Accepted here by ${accepted.by.name}, ${when(accepted.at)}.`
          : 'NOT ACCEPTED HERE: it does not count as a check of this installation.'),
      { bold: true, color: LOOK, margin: [0, 0, 0, 4] },
    ),
  ]
}

/** How a signature stands, in words. */
export function sealWords(s: Signature): string {
  if (s.standing === 'sealed') {
    const at = s.seal?.sealedAt ?? ''
    const later = at.slice(0, 16) > s.at.slice(0, 16)
    return `Sealed${later ? ` later, ${when(at)}` : ''}; verified.`
  }
  if (s.standing === 'verified')
    return `Signed at ${when(s.at)}, verified against the key “${s.keyName ?? ''}” that is trusted here.`
  if (s.standing === 'claimed') return 'Claimed, not verified.'
  return s.standing === 'broken' ? 'SEAL BROKEN.' : ''
}

/** The fingerprint of what was signed, and the code that leads to where it can be verified. */
export const fingerprint = (check: Check, paper: Paper): Node[] =>
  standOfCheck(check) === 'counts' ? fingerprintOf(newestFingerprint(check), paper) : []

export function fingerprintOf(digest: string | undefined, { address }: Paper): Node[] {
  if (!digest) return []
  return [
    {
      unbreakable: true,
      margin: [0, 10, 0, 0],
      columns: [
        { qr: `${address}/verify?is=${digest}`, fit: 84, width: 100, foreground: INK },
        {
          stack: [
            text('Fingerprint of this certificate (SHA-256)', { color: SECOND, fontSize: 9 }),
            figure(digest.slice(0, 32), { fontSize: 9 }),
            figure(digest.slice(32), { fontSize: 9 }),
            text(
              `Whether it stands on record unchanged is told at ${address}/verify, to anyone who has the fingerprint.`,
              { color: SECOND, fontSize: 8, margin: [0, 4, 0, 0] },
            ),
          ],
        },
      ],
    },
  ]
}

type Named = { readonly loop: Pick<FolderView['loop'], 'tag' | 'service'> }
/** Tag and service, and what the paper is, over a rule. */
export const headRows = ({ loop }: Named, what: string): Node[] => [
  {
    columns: [
      text(loop.tag, { fontSize: 22, bold: true, width: 'auto' }),
      text(loop.service, { fontSize: 13, margin: [12, 8, 0, 0] }),
      text(what, { alignment: 'right', color: SECOND, margin: [0, 10, 0, 0] }),
    ],
  },
  { canvas: [{ type: 'line', x1: 0, y1: 4, x2: WIDTH, y2: 4, lineWidth: 1, lineColor: INK }], margin: [0, 0, 0, 8] },
]
/** The verdict in the words of its kind; `pass` is undefined while nothing was read. */
export const verdictRow = (pass: boolean | undefined, [good, bad]: readonly [string, string]): Node =>
  text(pass === undefined ? 'No reading was taken.' : pass ? good : bad, {
    fontSize: 16,
    bold: true,
    color: pass ? GOOD : STOP,
  })

/** Head and verdict of a certificate of check. */
export function titleRows(
  folder: Named & { readonly checks: readonly Pick<Check, 'id' | 'startedAt' | 'practice'>[] },
  check: Check,
  pass: boolean | undefined,
  words: readonly [string, string],
): Node[] {
  const number = certificateNumber(folder.loop.tag, folder.checks, check.id)
  return [
    ...headRows(folder, isPractice(check) ? 'Practice sheet' : `Certificate of check ${number}`),
    ...standingRows(check),
    verdictRow(pass, words),
  ]
}

/** What is missing of the two signatures. */
export const signedSoFar = (check: Check): Node[] => (isPractice(check) ? [] : signedBy(check.signatures))

export function signedBy(signatures: readonly Pick<Signature, 'role'>[]): Node[] {
  const [performed, reviewed] = ['performed', 'reviewed'].map((role) => signatures.some((s) => s.role === role))
  return [
    ...(performed
      ? []
      : [
          text('NOT SIGNED: this is a working copy, not a certificate.', {
            bold: true,
            color: STOP,
            margin: [0, 4, 0, 0],
          }),
        ]),
    ...(performed && !reviewed
      ? [text('Not yet countersigned.', { bold: true, color: LOOK, margin: [0, 4, 0, 0] })]
      : []),
  ]
}

/**
 * What follows from a signed check that is out of tolerance, as it stands today: whether the loop may be used, and what
 * was measured with it.
 */
export function whatFollows(
  folder: Pick<FolderView, 'loop' | 'versions' | 'checks' | 'workLog'>,
  check: Check,
): Node[] {
  const { done, notFit, unanswered } = fitnessOf(folder, verdictIn(folder))
  if (!done.some((c) => c.id === check.id && !c.pass)) return []
  const stop = (words: string) => text(words, { bold: true, color: STOP, margin: [0, 2, 0, 0] })
  const word = fitWord(folder.workLog, check.id)
  const useWords = () =>
    word
      ? text(`Left out of tolerance; its use was allowed by ${word.by.name}, ${when(word.at)}: ${word.reason}`)
      : notFit?.id === check.id
        ? stop('NOT FIT FOR USE until someone with the duty says otherwise.')
        : text('Left out of tolerance then; how it stands now is told by a later check.')
  return [
    ...(check.phase === 'as-left' ? [useWords()] : []),
    ...measuredSince(folder.workLog, check.id).map((a) =>
      text(`What was measured with it since: ${a.answer} ${a.by.name}, ${when(a.at)}.`),
    ),
    ...(unanswered.some((c) => c.id === check.id)
      ? [stop('Not answered yet: what was measured with it since it was last in tolerance?')]
      : []),
  ]
}

/** Readings that later ones corrected, each said by `words`. */
export function correctedRows(check: Check, words: (reading: Reading) => string): Node[] {
  const standing = new Set([...standingByPoint(check).values()].map((x) => x.id))
  const corrected = check.readings.filter((x) => !standing.has(x.id))
  if (!corrected.length) return []
  const reason = (id: string) => check.readings.find((x) => x.supersedes === id)?.reason || 'taken again'
  return [
    heading('Readings that were corrected'),
    ...corrected.map((x) => text(`${words(x)} at ${when(x.takenAt)}; ${reason(x.id)}.`, { fontSize: 9 })),
  ]
}

/** Who signed as what, when, with which words, and how it stands. */
export const signatureLines = (signatures: readonly Signature[]): (readonly [string, string])[] =>
  signatures.map((s) => [
    s.role === 'performed' ? 'Performed by' : s.role === 'accepted' ? 'Accepted by' : 'Reviewed by',
    `${s.by.name}, ${when(s.at)}. ${s.statement} ${sealWords(s)}`,
  ])

export function confirmedAndSigned(check: Check): Node {
  return {
    stack: [
      heading('Confirmed and signed'),
      pairs([
        ...check.gates.map(
          (g) =>
            [
              g.gate === 'loop-in-manual' ? 'Before' : 'Afterwards',
              `${g.words} Told: ${g.told}. ${g.by.name}, ${when(g.at)}`,
            ] as const,
        ),
        ...signatureLines(check.signatures),
      ]),
    ],
    unbreakable: true,
  }
}
