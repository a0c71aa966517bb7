// What the commands tell the person who runs them.

/** A step that is under way. */
export function say(words) {
  console.log(`· ${words}`)
}

/** Ends the command with words that say what to do. */
export function giveUp(words) {
  console.error(`\n${words}\n`)
  process.exit(1)
}
