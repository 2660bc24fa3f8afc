/** Deepest nesting that our own documents come anywhere near. */
export const DEEPEST = 64

const [QUOTE, BACKSLASH] = [34, 92]

/** Where a text that begins with a quote ends: at the next quote that no odd row of backslashes makes a sign of it. */
function endOfText(text: string, begins: number): number {
  for (let at = text.indexOf('"', begins + 1); at >= 0; at = text.indexOf('"', at + 1)) {
    let slashes = 0
    while (text.charCodeAt(at - 1 - slashes) === BACKSLASH) slashes++
    if (slashes % 2 === 0) return at
  }
  return text.length
}

/** Whether JSON text nests deeper than anything of ours, told without walking it: a parser or a schema would. */
export function tooDeep(text: string): boolean {
  let depth = 0
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i)
    // A piece of a log is a text of a million signs: it is passed over, not walked through.
    if (c === QUOTE) i = endOfText(text, i)
    else if (c === 91 || c === 123) {
      if (++depth > DEEPEST) return true
    } else if (c === 93 || c === 125) depth--
  }
  return false
}
