// What failed in a run, by name and with the first words of its reason.
import { relative } from 'node:path'

const LINES = 4
const first = (message) => (message ?? '').trim().split('\n').slice(0, LINES).join('\n  ')
const said = (name, message) => `${name}\n  ${first(message)}`

/** The failed tests of a Vitest report, and the files that could not be read: named from `root`. */
export function failedUnits(report, root) {
  return (report?.testResults ?? []).flatMap((file) => {
    const name = relative(root, file.name)
    const failed = file.assertionResults.filter((test) => test.status === 'failed')
    if (!failed.length && file.status === 'failed') return [said(name, file.message)]
    return failed.map((test) => said(`${name} › ${test.fullName}`, test.failureMessages[0]))
  })
}

/** The failed journeys of a Playwright report. */
export function failedJourneys(report) {
  const within = (suite) => [...(suite.specs ?? []), ...(suite.suites ?? []).flatMap(within)]
  return (report?.suites ?? [])
    .flatMap(within)
    .flatMap((spec) =>
      spec.tests
        .filter((test) => test.status === 'unexpected')
        .map((test) => said(`[${test.projectName}] ${spec.file} › ${spec.title}`, test.results.at(-1)?.error?.message)),
    )
}
