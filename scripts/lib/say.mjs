// What the commands tell the person who runs them.

// Nobody listens any more (a closed pipe): what was to be said is lost, and nothing else.
for (const stream of [process.stdout, process.stderr]) stream.on('error', () => undefined)

/** A step that is under way. */
export function say(words) {
  console.log(`· ${words}`)
}

/** Ends the command with words that say what to do. */
export function giveUp(words) {
  console.error(`\n${words}\n`)
  process.exit(1)
}
