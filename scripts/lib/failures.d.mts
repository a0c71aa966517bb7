interface UnitReport {
  testResults: {
    name: string
    status: string
    message?: string
    assertionResults: { status: string; fullName: string; failureMessages: string[] }[]
  }[]
}
interface JourneySuite {
  specs?: {
    title: string
    file: string
    tests: { projectName: string; status: string; results: { error?: { message?: string } }[] }[]
  }[]
  suites?: JourneySuite[]
}
export function failedUnits(report: UnitReport | undefined, root: string): string[]
export function failedJourneys(report: JourneySuite | undefined): string[]
