/** Deepest nesting that our own documents come anywhere near. */
export const DEEPEST = 64

/** Whether JSON text nests deeper than anything of ours, told without walking it: a parser or a schema would. */
export function tooDeep(text: string): boolean {
  let depth = 0
  let inText = false
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i)
    if (inText) {
      if (c === 92) i++
      else if (c === 34) inText = false
    } else if (c === 34) inText = true
    else if (c === 91 || c === 123) {
      if (++depth > DEEPEST) return true
    } else if (c === 93 || c === 125) depth--
  }
  return false
}
