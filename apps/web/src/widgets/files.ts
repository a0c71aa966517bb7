// Files that a person picks or keeps.

/** The JSON of a file. @throws Error in words */
export async function jsonIn(file: File): Promise<unknown> {
  try {
    return JSON.parse(await file.text()) as unknown
  } catch {
    throw new Error('The file is not JSON, or not whole.')
  }
}

/** Where the first thing stands that a schema says is wrong, in words. */
export const firstWrong = (issues: readonly { path: readonly PropertyKey[]; message: string }[]): string =>
  `${issues[0]?.path.join('.') ?? ''} ${issues[0]?.message ?? ''}`.trim()

/** Gives a text to the person as a file. */
export function keepAs(name: string, text: string, type: string): void {
  const a = document.createElement('a')
  a.href = URL.createObjectURL(new Blob([text], { type }))
  a.download = name
  a.click()
  URL.revokeObjectURL(a.href)
}
