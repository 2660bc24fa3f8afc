/** One line for the person at the terminal. @param {string} text */
export const say = (text) => process.stdout.write(`${text}\n`)

/** Ends with one sentence that says what to do. @param {string} text @returns {never} */
export function giveUp(text) {
  process.stderr.write(`\n${text}\n`)
  process.exit(1)
}
