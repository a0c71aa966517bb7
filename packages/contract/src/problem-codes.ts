// Every code with which the server says no, besides the refusals and findings of the core, once: what it says, and
// what would be accepted.
import { FINDING_FAMILIES, FINDINGS, type FindingCode } from '@calm-loop/core/findings'
import { REFUSALS, type Meaning } from '@calm-loop/core/refusal'

export const PROBLEMS = {
  // Who asks
  'not-signed-in': ['Nobody is signed in.', 'The same again, signed in.'],
  'wrong-role': ['The person’s role, or the site’s duties, do not allow it.', 'Someone who may.'],
  'other-page': ['It was sent from a page of another site.', 'The application’s own page.'],
  'stale-page': ['The page is older than the session.', 'The page loaded again.'],
  'wrong-sign-in': ['Name or password is wrong.', 'The right ones.'],
  'wrong-password': ['The password is not that person’s.', 'Their own.'],
  'wrong-code': [
    'The one-time code is not the one that was given, or no longer.',
    'The code as printed, or a new one.',
  ],
  'sign-in-taken': ['Someone else has the sign-in name.', 'Another name.'],
  'not-empty': ['The installation has users already.', 'Signing in.'],
  'last-administrator': ['It would leave no administrator.', 'The same, once there is another.'],
  'password-changed': ['The password was changed meanwhile.', 'Signing in again.'],
  'too-many-tries': ['Too many tries at once.', 'The same after the seconds named.'],
  // What is asked
  'not-found': ['Nothing is there.', 'An address that the description lists.'],
  'too-large': ['It is larger than the address takes.', 'Less at once.'],
  'not-utf-8': ['The text is not UTF-8.', 'The file saved as UTF-8.'],
  'not-csv': ['The text is not a whole CSV file.', 'A file as RFC 4180 writes it.'],
  'bad-rows': ['Rows of a file cannot be taken.', 'The rows named, corrected.'],
  'not-a-picture': [
    'The file is no picture that is taken, or too large a one.',
    'A JPEG, PNG or WebP of sensible size.',
  ],
  'not-a-pdf': ['The file is no PDF.', 'A PDF.'],
  'not-a-key': ['The text is no public key for seals.', 'A key copied from another installation.'],
  'own-key': ['The key is this installation’s own.', 'The key of another.'],
  'unknown-reference': ['It names something that is not on record.', 'An id that is.'],
  // What is on record
  'id-reused': ['Something else is on record under the id.', 'A new id.'],
  'tag-taken': ['Another loop has the tag.', 'Another tag.'],
  'run-went-on': [
    'Somebody went on with the run before what was done out of coverage arrived.',
    'What it left otherwise than on record put right.',
  ],
  'job-ended': ['The job has ended.', 'A new job.'],
  'kit-moved': ['Somebody else moved the piece of kit meanwhile.', 'The same, knowing where it is now.'],
  'setting-changed': ['Somebody else set it meanwhile.', 'The same, knowing what stands now.'],
  'no-backups': ['This server makes no backups.', 'Backups set up where it is started.'],
  'file-incomplete': ['Not all parts of a file have arrived.', 'The file sent again.'],
  'version-conflict': ['Someone else saved meanwhile.', 'The change again, on what stands now.'],
  'version-sealed': ['The version is closed.', 'A new version.'],
  'wiring-changed': ['The wiring on record is another than was looked at.', 'The gate again, on what stands now.'],
  'folder-differs': ['The folder is here and has gone on since.', 'Nothing: a folder is never overwritten.'],
  'edges-overlap': ['Changes of that time are on record.', 'Changes of another time.'],
  // Checks and their signatures
  imported: ['The check was made elsewhere and is kept as it came.', 'A check of this installation.'],
  'not-imported': ['The check was made here.', 'A check that was brought in.'],
  'already-read': ['Somebody has read it.', 'A correction that names the reading, with its reason.'],
  signed: ['The check is signed.', 'A new check.'],
  'not-yet-signed': ['Nobody has signed the check.', 'It, once it is signed.'],
  'points-missing': ['Points are not read yet.', 'The check once all are read.'],
  'loop-not-released': ['Operations do not have the loop back.', 'The gate confirmed first.'],
  'seal-broken': ['What was signed is not what stands here.', 'Nothing: nobody signs it any more.'],
  'run-not-finished': [
    'Steps of the sheet are open, or nothing is entered to hold it against.',
    'It, once it is finished.',
  ],
  'own-work': ['The person had a hand in the check.', 'Another reviewer.'],
  'own-range': ['The person entered the range that the check is judged by.', 'Another reviewer.'],
  'no-hand': ['The person took no part in the check.', 'Someone who did.'],
  // Record and practice
  practice: ['It was done at the bench: practice is not signed.', 'A check of what was measured.'],
  'bench-connected': ['The bench is connected, and this is of the record.', 'The same, with the bench disconnected.'],
  'nothing-to-decide': ['Nothing there asks for that decision.', 'A decision that the folder asks for.'],
  // Devices and the server itself
  'device-silent': ['The device did not answer in time.', 'Reading back what it holds.'],
  'port-lost': ['The port cannot be opened, or is gone.', 'The port plugged in again, or another.'],
  'port-taken': ['Somebody else holds the port.', 'The same when they have let it go.'],
  'no-device': ['No device is connected on the port.', 'The device found first.'],
  'other-device': ['Another device is at hand on the port than was seen.', 'It found again, then said whose it is.'],
  simulated: ['It is a stand-in of the bench, and would pass for real.', 'A gateway of the plant.'],
  'link-busy': ['The line is at work.', 'The same when it is done, or stopped.'],
  'device-refused': ['The device answered that it will not.', 'What it says it would take.'],
  'device-elsewhere': ['Another server holds the link to the device.', 'The same again.'],
  'database-away': ['The database cannot be reached.', 'The same again, later.'],
  busy: ['Too much is being worked out.', 'The same again, in a moment.'],
  'too-much-work': ['It takes more time or memory than one piece of work may.', 'It divided.'],
  'asker-left': ['Whoever asked has gone away.', 'The same again.'],
  internal: ['Something broke on the server.', 'The same again; the log has the request’s id.'],
  // Where there is no server
  'no-network': ['The server cannot be reached.', 'The same again; what was typed is kept.'],
} as const satisfies Record<string, Meaning>

/** A stop refuses under the code of its finding. */
export type ProblemCode = keyof typeof PROBLEMS | FindingCode

const known: Readonly<Record<string, Meaning>> = { ...FINDINGS, ...REFUSALS, ...PROBLEMS }
const meaningOf = (code: string): Meaning | undefined =>
  Object.hasOwn(known, code)
    ? known[code]
    : Object.entries(FINDING_FAMILIES).find(
        ([family]) => code.startsWith(`${family}-`) && code.length > family.length + 1,
      )?.[1]

export const isProblemCode = (code: string | undefined): code is ProblemCode =>
  code !== undefined && meaningOf(code) !== undefined

/** What would be accepted instead; every code of the registry has it. */
export const acceptedInstead = (code: ProblemCode): string => meaningOf(code)?.[1] ?? ''
