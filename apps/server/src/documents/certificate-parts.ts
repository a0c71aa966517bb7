// Parts that every certificate has: title and verdict, signatures so far, equipment, corrections, who confirmed and signed.
import { standingByPoint, type Check, type FolderView, type Reading } from '@calm-loop/contract'
import { day, heading, INK, pairs, SECOND, text, when, type Node } from './page.ts'

export const WIDTH = 515
/** Drawings are made larger than they are printed, so that their letters match the text. */
export const DRAWN = 680

const performedBy = (check: Check) => check.signatures.find((s) => s.role === 'performed')

function gearRows(check: Check): Node[] {
  const on = check.startedAt.slice(0, 10)
  if (!check.gear.length) return [text('No test equipment was named.', { fontSize: 9, color: SECOND })]
  return [
    pairs(
      check.gear.map(
        (g) =>
          [
            g.name,
            `serial ${g.serial}; uncertainty ${g.uncertainty || 'not stated'}; due ${day(g.due)}${g.due < on ? ' — EXPIRED when used' : ''}`,
          ] as const,
      ),
    ),
  ]
}

export const gearUsed = (check: Check): Node => ({
  stack: [heading('Test equipment'), ...gearRows(check)],
  unbreakable: true,
})

/** Tag, service, and the verdict in the words of its kind; `pass` is undefined while nothing was read. */
export function titleRows(
  folder: FolderView,
  pass: boolean | undefined,
  [good, bad]: readonly [string, string],
): Node[] {
  return [
    {
      columns: [
        text(folder.loop.tag, { fontSize: 22, bold: true, width: 'auto' }),
        text(folder.loop.service, { fontSize: 13, margin: [12, 8, 0, 0] }),
        text('Certificate of check', { alignment: 'right', color: SECOND, margin: [0, 10, 0, 0] }),
      ],
    },
    { canvas: [{ type: 'line', x1: 0, y1: 4, x2: WIDTH, y2: 4, lineWidth: 1, lineColor: INK }], margin: [0, 0, 0, 8] },
    text(pass === undefined ? 'No reading was taken.' : pass ? good : bad, {
      fontSize: 16,
      bold: true,
      color: pass ? '#24524A' : '#9B1C31',
    }),
  ]
}

/** What is missing of the two signatures. */
export function signedSoFar(check: Check): Node[] {
  const performed = performedBy(check)
  const reviewed = check.signatures.find((s) => s.role === 'reviewed')
  return [
    ...(performed
      ? []
      : [
          text('NOT SIGNED: this is a working copy, not a certificate.', {
            bold: true,
            color: '#9B1C31',
            margin: [0, 4, 0, 0],
          }),
        ]),
    ...(performed && !reviewed
      ? [text('Not yet countersigned.', { bold: true, color: '#8A5A00', margin: [0, 4, 0, 0] })]
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

export function confirmedAndSigned(check: Check): Node {
  const performed = performedBy(check)
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
        ...check.signatures.map(
          (s) =>
            [
              s.role === 'performed' ? 'Performed by' : 'Reviewed by',
              `${s.by.name}, ${when(s.at)}. ${s.statement}`,
            ] as const,
        ),
        ...(performed ? [['Fingerprint', `SHA-256 ${performed.digest}`] as const] : []),
      ]),
    ],
    unbreakable: true,
  }
}
